/**
 * One thing that can be done. Keys, toolbars, menus, the search of commands and the sheet of keys all read it here. A
 * key is written as it is shown: "Ctrl Z", "Alt ↑", "M"; one without Ctrl or Alt counts only while nothing is being
 * typed.
 */
export interface Command {
  id: string;
  label: string;
  /** What the sheet of keys says of it, where that is more than its label. */
  note?: string;
  keys: readonly string[];
  /** Under what it stands on the sheet of keys. */
  group: string;
  /** Its keys count only where the room's stage has them, which reads them itself. */
  atStage?: boolean;
  run: () => unknown;
}

const NAMES: Record<string, string> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  Escape: 'Esc',
};

export interface Pressed {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}

/** A key that was pressed, as commands write it. */
export function keyOf({ key, ctrlKey, metaKey, altKey, shiftKey }: Pressed): string {
  const control = ctrlKey || metaKey;
  const named = NAMES[key] ?? (key.length === 1 ? key.toUpperCase() : key);
  return `${control ? 'Ctrl ' : ''}${altKey ? 'Alt ' : ''}${shiftKey && control ? 'Shift ' : ''}${named}`;
}

/** A command of a room, with its keys if it has any. */
export const command = (
  id: string,
  label: string,
  group: string,
  run: () => unknown,
  ...keys: string[]
): Command => ({
  id,
  label,
  keys,
  group,
  run,
});

/** The command of a key that was pressed. */
export function commandFor(pressed: Pressed, commands: readonly Command[]): Command | undefined {
  const key = keyOf(pressed);
  return commands.find((c) => c.keys.includes(key));
}
