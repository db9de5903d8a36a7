import { Moon, Sun, SunMoon } from 'lucide-react';
import { IconButton } from '../../ui/Button.js';
import { THEME_NAMES, THEMES, type Theme } from '../../ui/inks.js';
import { habits } from '../state/habits.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';

const ICONS: Readonly<Record<Theme, typeof Sun>> = { system: SunMoon, light: Sun, dark: Moon };

/** Goes from one theme to the next: as the system wishes, light, dark. */
export function ThemeButton() {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((s) => s.habits.theme);
  const next = THEMES[(THEMES.indexOf(theme) + 1) % THEMES.length]!;
  const Icon = ICONS[theme];
  return (
    <IconButton
      name={`${THEME_NAMES[theme]}. Press for: ${THEME_NAMES[next].toLowerCase()}`}
      onClick={() => dispatch(habits.changed({ theme: next }))}
    >
      <Icon size={17} aria-hidden />
    </IconButton>
  );
}
