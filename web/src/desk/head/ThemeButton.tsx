import { Moon, Sun, SunMoon } from 'lucide-react';
import { IconButton } from '../../ui/Button.js';
import { THEMES, wear, type Theme } from '../../ui/inks.js';
import { habits } from '../state/habits.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';

const SHOWN: Readonly<Record<Theme, { icon: typeof Sun; name: string }>> = {
  system: { icon: SunMoon, name: 'Light or dark as the system is' },
  light: { icon: Sun, name: 'Light page' },
  dark: { icon: Moon, name: 'Dark page' },
};

/** Goes from one theme to the next: as the system wishes, light, dark. */
export function ThemeButton() {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((s) => s.habits.theme);
  const next = THEMES[(THEMES.indexOf(theme) + 1) % THEMES.length]!;
  const { icon: Icon, name } = SHOWN[theme];
  return (
    <IconButton
      name={`${name}. Press for: ${SHOWN[next].name.toLowerCase()}`}
      onClick={() => {
        dispatch(habits.changed({ theme: next }));
        wear(next);
      }}
    >
      <Icon size={17} aria-hidden />
    </IconButton>
  );
}
