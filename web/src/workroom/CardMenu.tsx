import type { ReactNode } from 'react';
import { ButtonMenu, type MenuLines } from '../ui/Menu.js';

/** The menu of a card, open from the moment it is there: it is fetched when it is first asked for. */
export const CardMenu = ({
  lines,
  label,
  children,
}: {
  lines: MenuLines;
  label: string;
  children: ReactNode;
}) => (
  <ButtonMenu label={label} lines={lines} isOpenAtFirst>
    {children}
  </ButtonMenu>
);
