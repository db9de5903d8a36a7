import type { SheetBlock } from './sheet.js';

/** The sheet as plain text and as Markdown, to be pasted elsewhere. Charts are drawings: that they are left out is said. */

/** What stands in a copy where the sheet has a chart. */
const chartNote = ({ chart, label }: Extract<SheetBlock, { type: 'chart' }>): string =>
  `[${label}: ${chart.width} ${chart.width === 1 ? 'column' : 'columns'}, rows 1 to ${chart.rows.length}; a drawing, not in this copy]`;

/** How a kind of copy sets what a sheet is made of. */
interface Marks {
  title: (text: string) => string;
  heading: (text: string, level: number) => string;
  item: (text: string) => string;
  plain: (text: string) => string;
  head: (text: string) => string;
}

const TEXT: Marks = {
  title: (text) => text,
  heading: (text) => text,
  item: (text) => text,
  plain: (text) => text,
  head: (text) => text,
};

/** What Markdown would take for a mark of its own. */
const escaped = (text: string): string =>
  text.replace(/[\\`*_{}[\]<>#|]/g, '\\$&').replace(/^(\s*\d*)([-+.)])(?=\s)/gm, '$1\\$2');

const MARKDOWN: Marks = {
  title: (text) => `# ${escaped(text)}`,
  heading: (text, level) => `${'#'.repeat(level)} ${escaped(text)}`,
  item: (text) => `- ${text}`,
  plain: escaped,
  head: (text) => `**${escaped(text)}**`,
};

function blockText(block: SheetBlock, marks: Marks): string[] {
  switch (block.type) {
    case 'title':
      return [marks.title(block.text), ...(block.by ? [marks.plain(block.by)] : [])];
    case 'heading':
      return [marks.heading(block.text, block.level)];
    case 'text':
    case 'proof':
      return [marks.plain(block.text)];
    case 'rows':
      return [
        block.rows
          .map(({ head, words }) => marks.item(`${marks.head(`${head}:`)} ${marks.plain(words)}`))
          .join('\n'),
      ];
    case 'words':
      return [block.lines.map(({ word, steps }) => marks.item(marks.plain(`${word}: ${steps}.`))).join('\n')];
    case 'chart':
      return [marks.plain(chartNote(block)), ...(block.caption ? [marks.plain(block.caption)] : [])];
    case 'schematic':
      return [marks.plain(`[${block.label}: a drawing, not in this copy]`)];
    case 'cloth':
      return [marks.plain(`[${block.label}: a picture, not in this copy]`)];
    case 'key':
      return [block.lines.map(({ told }) => marks.item(marks.plain(told))).join('\n')];
    case 'beside':
      return [...block.left, ...block.right].flatMap((b) => blockText(b, marks));
  }
}

const copied = (blocks: readonly SheetBlock[], marks: Marks): string =>
  `${blocks
    .flatMap((block) => blockText(block, marks))
    .filter(Boolean)
    .join('\n\n')}\n`;

/** The sheet as plain text; the rows and the key are read back by the import room. */
export const sheetText = (blocks: readonly SheetBlock[]): string => copied(blocks, TEXT);

/** The sheet as Markdown (CommonMark). */
export const sheetMarkdown = (blocks: readonly SheetBlock[]): string => copied(blocks, MARKDOWN);
