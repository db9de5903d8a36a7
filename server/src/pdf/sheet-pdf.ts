import {
  BESIDE,
  bookOf,
  chartHolding,
  columnsIn,
  drawStitch,
  keyTold,
  partName,
  partsOf,
  pictureOf,
  planOf,
  PRINT_INKS,
  spanOf,
  type Chart,
  type Design,
  type KeyEntry,
  type SheetBlock,
} from '@cordelina/core';
import { clothPng } from '../pictures/cloth.js';
import { GAP, MARGIN, MM, Setter, type Column, type Pdf } from './setter.js';

export type { Pdf } from './setter.js';

/** The picture of a cloth, in points; so many of its pixels make one, and what shows between the yarn is dark. */
const CLOTH = { width: 340, height: 225 } as const;
const CLOTH_PIXELS = { width: 2 * CLOTH.width, height: 2 * CLOTH.height };
const BEHIND = 60;

/** Sets the blocks of a design's sheet on pages. */
export async function pdfOf(design: Design, blocks: readonly SheetBlock[]): Promise<Pdf> {
  const sheet = new Sheet(design);
  sheet.set(blocks);
  return sheet.end();
}

/** A design's sheet, block by block. */
class Sheet extends Setter {
  set(blocks: readonly SheetBlock[], column = this.whole): void {
    blocks.forEach((block, i) => this.block(block, column, blocks.slice(i + 1)));
  }

  private block(block: SheetBlock, column: Column, rest: readonly SheetBlock[]): void {
    const { size, tags } = this;
    switch (block.type) {
      case 'title':
        this.mark(block.text, 1);
        tags.leaf('H1', () => this.say(block.text, 'bold', column, size * 2));
        if (block.by) tags.leaf('P', () => this.say(block.by, 'text', column, size * 1.05));
        this.skip(size * 0.4);
        return;
      case 'heading': {
        const { level, text } = block;
        // A heading stays with the first of what it heads.
        this.need(this.headingHeight(block, column) + this.firstHeight(rest, column));
        this.skip(size * 1.1);
        this.mark(text, level);
        tags.leaf(`H${level}`, () => this.say(text, 'bold', column, this.headingSize(level)));
        this.skip(size * 0.25);
        return;
      }
      case 'text': {
        const face = block.tone === 'plain' ? 'text' : 'italic';
        const used = this.textSize(block.tone);
        this.skip(block.tone === 'small' ? size : size * 0.3);
        this.need(Math.min(this.heightOf(block.text, face, column.width, used), size * 4));
        tags.leaf('P', () => this.say(block.text, face, column, used));
        return;
      }
      case 'proof':
        this.skip(size);
        this.need(this.heightOf(block.text, 'text', column.width, size * 0.87));
        tags.leaf('P', () => this.say(block.text, 'text', column, size * 0.87));
        return;
      case 'rows':
        return this.pairs(
          block.rows.map(({ head, words }) => [head, words] as const),
          'bold',
          'mono',
          column,
        );
      case 'words':
        return this.pairs(
          block.lines.map(({ word, steps }) => [word, steps] as const),
          'mono',
          'text',
          column,
        );
      case 'chart':
        return this.chart(block, column);
      case 'schematic':
        return this.schematic(block, column);
      case 'cloth':
        return this.cloth(block, column);
      case 'key':
        return this.key(block, column);
      case 'beside':
        return this.beside(block, column);
    }
  }

  private headingSize(level: 2 | 3): number {
    return this.size * (level === 3 ? 1.1 : 1.3);
  }

  private headingHeight({ text, level }: Extract<SheetBlock, { type: 'heading' }>, column: Column): number {
    return this.size * 1.35 + this.heightOf(text, 'bold', column.width, this.headingSize(level));
  }

  private textSize(tone: Extract<SheetBlock, { type: 'text' }>['tone']): number {
    return tone === 'small' ? this.size * 0.9 : this.size;
  }

  /** How much of what follows must stand with what heads it: its first row, line, entry or drawing. */
  private firstHeight([next, ...rest]: readonly SheetBlock[], column: Column): number {
    const { size } = this;
    switch (next?.type) {
      case undefined:
      case 'title':
        return 0;
      case 'heading':
        return this.headingHeight(next, column) + this.firstHeight(rest, column);
      case 'text':
      case 'proof':
        return Math.min(this.heightOf(next.text, 'text', column.width), size * 3);
      case 'rows': {
        const [first] = next.rows;
        return first
          ? size * 0.3 +
              this.pairHeight(
                first.head,
                first.words,
                'bold',
                'mono',
                column,
                next.rows.map((r) => r.head),
              )
          : 0;
      }
      case 'words': {
        const [first] = next.lines;
        return first
          ? size * 0.3 +
              this.pairHeight(
                first.word,
                first.steps,
                'mono',
                'text',
                column,
                next.lines.map((l) => l.word),
              )
          : 0;
      }
      case 'chart':
        return size * 0.4 + this.chartHeight(next.chart, column) + (next.caption ? size * 2 : 0);
      case 'schematic':
        return size + next.picture.box.height * Math.min(size, column.width / next.picture.box.width);
      case 'cloth':
        return size + (Math.min(CLOTH.width, column.width) / CLOTH.width) * CLOTH.height;
      case 'key':
        return next.entries[0] ? this.entryOf(next.entries[0], next.isBrief, column).height : 0;
      case 'beside':
        return this.firstHeight(next.left, { x: column.x, width: column.width * (1 - BESIDE) });
    }
  }

  private partsIn(chart: Chart, column: Column) {
    return partsOf(chart, columnsIn(column.width / MM));
  }

  /** The size of a chart's cells in a column, so that each of its parts fits its width and a page's height. */
  private cellOf(chart: Chart, column: Column): number {
    const boxes = this.partsIn(chart, column).map(
      (part) => pictureOf(chart, this.style, PRINT_INKS, part).box,
    );
    const room = this.bottom - MARGIN - this.size * 4;
    return Math.min(this.cell, ...boxes.flatMap((box) => [column.width / box.width, room / box.height]));
  }

  /** The height of the first of a chart's parts, or of the plan of them. */
  private chartHeight(chart: Chart, column: Column): number {
    const parts = this.partsIn(chart, column);
    if (parts.length > 1) return planOf(chart, parts).box.height * this.planUnit() + this.size * 2;
    return pictureOf(chart, this.style, PRINT_INKS, parts[0]).box.height * this.cellOf(chart, column);
  }

  private planUnit(): number {
    return this.size * 0.8;
  }

  /** A chart; one that is larger than a page in parts, with a plan of them. */
  private chart({ chart, caption, label }: Extract<SheetBlock, { type: 'chart' }>, column: Column): void {
    const { size, tags } = this;
    const cell = this.cellOf(chart, column);
    const parts = this.partsIn(chart, column);
    this.skip(size * 0.4);
    if (parts.length > 1) {
      const plan = planOf(chart, parts);
      this.drawing(
        plan,
        this.planUnit(),
        column,
        `Plan of the ${parts.length} parts of ${label.toLowerCase()}`,
      );
      tags.leaf('P', () =>
        this.say(
          'The chart goes on from part to part; columns on shaded paper are shown by the part before as well.',
          'italic',
          column,
          size * 0.93,
        ),
      );
      this.skip(size * 0.4);
    }
    parts.forEach((part, i) => {
      const picture = pictureOf(chart, this.style, PRINT_INKS, part);
      const name = parts.length > 1 ? partName(part, i, parts.length) : null;
      this.need(picture.box.height * cell + (caption || name ? size * 2 : 0));
      if (name) tags.leaf('P', () => this.say(name, 'bold', column, size * 0.93));
      const told = `${label}: ${name ?? `${chart.width} columns, ${chart.rows.length} rows`}. Its rows are told in words.`;
      this.drawing(picture, cell, column, told, chart);
      this.skip(size * 0.4);
    });
    if (caption) tags.leaf('Caption', () => this.say(caption, 'italic', column, size * 0.93));
  }

  private schematic({ picture, label }: Extract<SheetBlock, { type: 'schematic' }>, column: Column): void {
    this.skip(this.size * 0.6);
    this.drawing(picture, Math.min(this.size, column.width / picture.box.width), column, label);
  }

  private cloth({ chart, dye, label }: Extract<SheetBlock, { type: 'cloth' }>, column: Column): void {
    const { doc, size, tags } = this;
    const width = Math.min(CLOTH.width, column.width);
    const height = (width / CLOTH.width) * CLOTH.height;
    this.skip(size * 0.4);
    this.need(height);
    const top = doc.y;
    const png = clothPng(chart, dye, CLOTH_PIXELS, BEHIND);
    tags.leaf('Figure', () => void doc.image(png, column.x, top, { width, height }), {
      alt: label,
      bbox: [column.x, top, column.x + width, top + height],
    });
    doc.y = top + height + size * 0.4;
    doc.x = column.x;
  }

  /** A chart at the right of its rows, on the page where they begin. */
  private beside({ left, right }: Extract<SheetBlock, { type: 'beside' }>, column: Column): void {
    const { doc } = this;
    const charts = right.flatMap((b) => (b.type === 'chart' ? [b] : []));
    const beside = { x: 0, width: column.width * BESIDE };
    const widest = Math.max(
      ...charts.map(({ chart }) => {
        return pictureOf(chart, this.style, PRINT_INKS).box.width * this.cellOf(chart, beside);
      }),
    );
    const total = charts.reduce((sum, { chart }) => sum + this.chartHeight(chart, beside) + this.size * 3, 0);
    this.need(Math.min(total, this.bottom - MARGIN));
    const [top, page] = [doc.y, this.pageNumber()];
    // From the next page on the rows have the whole width.
    const isHere = () => this.pageNumber() === page;
    this.set(left, {
      x: column.x,
      get width() {
        return isHere() ? column.width - widest - GAP : column.width;
      },
    });
    const [end, last] = [doc.y, this.pageNumber()];
    doc.switchToPage(page);
    doc.y = top + this.size * 1.2;
    this.set(right, { x: column.x + column.width - widest, width: widest });
    const besideEnd = doc.y;
    doc.switchToPage(last);
    doc.y = last === page ? Math.max(end, besideEnd) : end;
  }

  /** What is set of an entry of the key, and how high it stands. */
  private entryOf(entry: KeyEntry, isBrief: boolean, column: Column) {
    const { size } = this;
    const most = size * 8.5;
    const words = { x: column.x + most + size, width: column.width - most - size };
    const { stitch, name, takes, makes } = entry;
    const book = bookOf(chartHolding(this.design.charts, stitch ?? 'k'));
    const span = stitch === null ? 1 : spanOf(stitch, book);
    const cell = Math.min(size * 1.6, most / span);
    const lines = keyTold(entry, isBrief)
      .map(({ side, word, steps, loose }) => {
        const said = [word, steps].filter(Boolean).join(': ');
        return `${side ? `${side} ` : ''}${said}${loose ? ` Without a cable needle: ${loose}` : ''}`;
      })
      .filter(Boolean);
    const head = stitch === null ? name : `${name} (takes ${takes}, makes ${makes})`;
    const told =
      this.heightOf(head, 'bold', words.width) +
      lines.reduce((sum, line) => sum + this.heightOf(line, 'text', words.width), 0);
    return { words, book, span, cell, lines, head, height: Math.max(told, cell) };
  }

  private key({ entries, isBrief }: Extract<SheetBlock, { type: 'key' }>, column: Column): void {
    const { doc, size, tags } = this;
    tags.group('Table', () => {
      for (const entry of entries) {
        const { stitch } = entry;
        const { words, book, span, cell, lines, head, height } = this.entryOf(entry, isBrief, column);
        this.need(height);
        const top = doc.y;
        tags.group('TR', () => {
          tags.group(
            'TH',
            () => {
              if (stitch !== null) {
                const at = { x: column.x, y: top + 1, cell };
                const draw = () => this.painter.stitch(drawStitch(stitch, this.style.plain, book), span, at);
                tags.leaf('Figure', draw, {
                  alt: `Symbol of ${entry.name}`,
                  bbox: [at.x, at.y, at.x + span * cell, at.y + cell],
                });
              }
              tags.leaf('P', () => this.say(head, 'bold', words, size, top));
            },
            { scope: 'Row' },
          );
          tags.group('TD', () => {
            for (const line of lines) tags.leaf('P', () => this.say(line, 'text', words));
          });
        });
        doc.y = Math.max(doc.y, top + cell) + size * 0.5;
      }
    });
    doc.x = column.x;
  }
}
