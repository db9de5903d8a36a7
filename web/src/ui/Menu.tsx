import { Check } from 'lucide-react';
import { ContextMenu, DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { onClosed } from './hands.js';

/** One line of a menu. Keys are shown as they are pressed. */
export interface MenuLine {
  label: string;
  keys?: string;
  /** Set where the line is one that is on or off. */
  checked?: boolean;
  disabled?: boolean;
  run: () => unknown;
}

/** Lines in groups, a rule between them. */
export type MenuLines = readonly (readonly MenuLine[])[];

const CONTENT =
  'z-40 max-h-(--radix-popper-available-height) min-w-[220px] overflow-y-auto overscroll-contain rounded-sm border border-slate/40 bg-chalk p-1 text-[14px] shadow-sheet';
const ITEM =
  'flex items-center gap-2 rounded-sm px-2 py-1 outline-none data-[highlighted]:bg-wash data-[disabled]:opacity-45';

type Kind = typeof DropdownMenu | typeof ContextMenu;

function Lines({ lines, kind: Menu }: { lines: MenuLines; kind: Kind }) {
  return lines
    .filter((group) => group.length > 0)
    .map((group, i) => (
      <Menu.Group key={i}>
        {i > 0 && <Menu.Separator className="mx-1 my-1 h-px bg-rule" />}
        {group.map(({ label, keys, checked, disabled, run }) => {
          const text = (
            <>
              <span className="w-4 shrink-0">{checked && <Check size={14} aria-hidden />}</span>
              <span className="mr-6">{label}</span>
              {keys && <span className="ml-auto font-mono text-[12px] text-slate">{keys}</span>}
            </>
          );
          return checked === undefined ? (
            <Menu.Item key={label} className={ITEM} disabled={disabled} onSelect={run}>
              {text}
            </Menu.Item>
          ) : (
            <Menu.CheckboxItem
              key={label}
              className={ITEM}
              checked={checked}
              disabled={disabled}
              onSelect={run}
            >
              {text}
            </Menu.CheckboxItem>
          );
        })}
      </Menu.Group>
    ));
}

interface MenuProps {
  lines: MenuLines;
  label: string;
  children: ReactNode;
}

/** What every menu's sheet has. */
const sheet = (label: string) => ({
  className: CONTENT,
  collisionPadding: 8,
  'aria-label': label,
  onCloseAutoFocus: onClosed,
});

/** A menu that hangs from a button. */
export const ButtonMenu = ({
  lines,
  label,
  isOpenAtFirst,
  children,
}: MenuProps & { isOpenAtFirst?: boolean }) => (
  <DropdownMenu.Root defaultOpen={isOpenAtFirst}>
    <DropdownMenu.Trigger asChild>{children}</DropdownMenu.Trigger>
    <DropdownMenu.Portal>
      <DropdownMenu.Content {...sheet(label)} align="start" sideOffset={4}>
        <Lines lines={lines} kind={DropdownMenu} />
      </DropdownMenu.Content>
    </DropdownMenu.Portal>
  </DropdownMenu.Root>
);

/** A menu that opens where the right button is pressed, or a finger rests. */
export const PlaceMenu = ({ lines, label, children }: MenuProps) => (
  <ContextMenu.Root>
    <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
    <ContextMenu.Portal>
      <ContextMenu.Content {...sheet(label)}>
        <Lines lines={lines} kind={ContextMenu} />
      </ContextMenu.Content>
    </ContextMenu.Portal>
  </ContextMenu.Root>
);
