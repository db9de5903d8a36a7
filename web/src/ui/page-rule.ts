import { PAGE_MARGIN, type SheetSettings } from '@cordelina/core';

/** A text within a style sheet, between quotation marks. */
const quoted = (text: string): string => text.replace(/[\\"]/g, '\\$&').replace(/[\n\r\f<]/g, ' ');

/** The page a sheet is printed on: its size and margins, and at its foot the title and the page. */
export const pageRule = (page: SheetSettings['page'], title: string): string => `@page {
  size: ${page};
  margin: ${PAGE_MARGIN}mm;
  @bottom-left { content: "${quoted(title)}"; font: 9px sans-serif; color: #5b6470; }
  @bottom-right { content: counter(page) " of " counter(pages); font: 9px sans-serif; color: #5b6470; }
}`;
