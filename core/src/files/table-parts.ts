import { cellName, type CellFault, type Sheet } from './table.js';
import { HEADS } from './tables.js';

/** The parts of tables, each known by its first cell, and where what is wrong with them is told. */

/** More faults than these are counted, not told. */
const MOST_FAULTS = 200;

/** A part of a sheet that begins with a head, and where. */
export interface Block {
  sheet: string;
  top: number;
  rows: Sheet['cells'];
}

/** Where a fault is told. */
export class Telling {
  readonly faults: CellFault[] = [];
  readonly notes: CellFault[] = [];
  private readonly said = new Set<string>();

  fault({ sheet, top }: Block, row: number, column: number, message: string): void {
    if (this.faults.length < MOST_FAULTS)
      this.faults.push({ sheet, cell: cellName(top + row, column), message });
  }

  note({ sheet, top }: Block, row: number, column: number, message: string): void {
    if (this.said.has(message) || this.notes.length >= MOST_FAULTS) return;
    this.said.add(message);
    this.notes.push({ sheet, cell: cellName(top + row, column), message });
  }
}

export const lineOf = (row: readonly string[] | undefined): string => row?.[0]?.trim() ?? '';

/** The parts of all sheets, by their heads. A sheet that begins with none says so. */
export function blocksOf(sheets: readonly Sheet[], telling: Telling): Record<keyof typeof HEADS, Block[]> {
  const blocks: Record<keyof typeof HEADS, Block[]> = { design: [], chart: [], key: [] };
  const heads = Object.entries(HEADS) as [keyof typeof HEADS, string][];
  for (const { name, cells } of sheets) {
    const begins = cells.flatMap((row, r) => {
      const head = heads.find(([, word]) => word === lineOf(row));
      // A head stands at the top, or after a blank line; a title may be called like one.
      const isHead =
        head &&
        (r === 0 ||
          cells.slice(0, r).every((above) => above.every((c) => !c.trim())) ||
          isBlank(cells[r - 1]));
      return isHead ? [{ r, of: head[0] }] : [];
    });
    begins.forEach(({ r, of }, i) => {
      blocks[of].push({ sheet: name, top: r, rows: cells.slice(r, begins[i + 1]?.r) });
    });
    if (!begins.length && cells.some((row) => row.some((cell) => cell.trim())))
      telling.note(
        { sheet: name, top: 0, rows: cells },
        0,
        0,
        `The sheet "${name}" begins with none of ${Object.values(HEADS).join(', ')}: it is left aside.`,
      );
  }
  return blocks;
}

export const isBlank = (row: readonly string[] | undefined): boolean =>
  !row || row.every((cell) => !cell.trim());
