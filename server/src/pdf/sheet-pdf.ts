import {
  bookOf,
  chartHolding,
  chartParts,
  drawStitch,
  keyTold,
  spanOf,
  styleOf,
  TOKENS,
  type Chart,
  type Design,
  type DrawingStyle,
  type SheetBlock,
} from '@cordelina/core';
import PDFDocument from 'pdfkit';
import { runsOf, type Face } from './fonts.js';
import { clothPng } from '../pictures/cloth.js';
import { ChartPainter } from './painter.js';

/** A sheet set on pages; lengths are points. */
export interface Pdf {
  bytes: Uint8Array;
  pages: number;
  /** Characters that the fonts do not have, which stand on the pages as signs for a missing one. */
  missing: string;
}

/** The picture of a cloth, in points; so many of its pixels make one, and what shows between the yarn is dark. */
const CLOTH = { width: 340, height: 225 } as const;
const CLOTH_PIXELS = { width: 2 * CLOTH.width, height: 2 * CLOTH.height };
const BEHIND = 60;

/** As the printed page has it: 14 mm. */
const MARGIN = 39.7;
const SIZES = { usual: 10.5, large: 14.5 };
const CELLS = { usual: 13.5, large: 17 };
/** A chart beside its rows takes at most so much of the width. */
const BESIDE = 0.46;
const GAP = 18;
/** Figures of one height and width, as on the screen: numbers are what a pattern is read for. */
const FIGURES: PDFKit.Mixins.OpenTypeFeatures[] = ['lnum', 'tnum'];

interface Column {
  readonly x: number;
  readonly width: number;
}

/** Sets the blocks of a design's sheet on pages. */
export async function pdfOf(design: Design, blocks: readonly SheetBlock[]): Promise<Pdf> {
  const setter = new Setter(design);
  setter.set(blocks);
  return setter.end();
}

class Setter {
  private readonly doc: PDFKit.PDFDocument;
  private readonly painter: ChartPainter;
  private readonly missing = new Set<string>();
  private readonly size: number;
  private readonly cell: number;
  private readonly style: DrawingStyle;
  private readonly chunks: Buffer[] = [];
  private readonly ended: Promise<void>;
  private readonly whole: Column;
  private readonly fontsKnown = new Set<string>();

  constructor(private readonly design: Design) {
    const { sheet, settings, title } = design;
    this.doc = new PDFDocument({
      size: sheet.page === 'A4' ? 'A4' : 'LETTER',
      margin: MARGIN,
      bufferPages: true,
      lang: 'en',
      displayTitle: true,
      info: { Title: title, ...(sheet.by ? { Author: sheet.by } : {}), Creator: 'Cordelina' },
    });
    this.size = sheet.large ? SIZES.large : SIZES.usual;
    this.cell = sheet.large ? CELLS.large : CELLS.usual;
    this.style = styleOf(settings);
    this.whole = { x: MARGIN, width: this.doc.page.width - 2 * MARGIN };
    this.painter = new ChartPainter(this.doc, (text, { x, y, size, anchor, ink }) => {
      this.face('text', size);
      const width = this.doc.widthOfString(text);
      const left = anchor === 'end' ? x - width : anchor === 'middle' ? x - width / 2 : x;
      this.doc.fillColor(ink).text(text, left, y, { lineBreak: false, baseline: 'alphabetic' });
    });
    this.doc.on('data', (chunk: Buffer) => this.chunks.push(chunk));
    this.ended = new Promise((resolve, reject) => {
      this.doc.on('end', resolve);
      this.doc.on('error', reject);
    });
    this.doc.y = MARGIN;
  }

  private get bottom(): number {
    return this.doc.page.height - MARGIN;
  }

  private face(face: Face, size = this.size, part = runsOf('a', face, this.missing)[0]!.part): void {
    if (!this.fontsKnown.has(part.name)) {
      this.doc.registerFont(part.name, part.bytes);
      this.fontsKnown.add(part.name);
    }
    this.doc.font(part.name).fontSize(size);
  }

  /** Sets a text in a column from the place reached, or from `y`; long ones go on over pages. */
  private say(text: string, face: Face, { x, width }: Column, size = this.size, y = this.doc.y): void {
    const { doc } = this;
    doc.fillColor(TOKENS.peat);
    const runs = runsOf(text, face, this.missing);
    runs.forEach(({ text: said, part }, i) => {
      this.face(face, size, part);
      const options = { width, continued: i < runs.length - 1, lineGap: size * 0.12, features: FIGURES };
      if (i === 0) doc.text(said, x, y, options);
      else doc.text(said, options);
    });
    doc.x = x;
  }

  private heightOf(text: string, face: Face, width: number, size = this.size): number {
    this.face(face, size);
    return this.doc.heightOfString(text, { width, lineGap: size * 0.12, features: FIGURES });
  }

  /** Goes to a new page where less than this is left of the one. */
  private need(height: number): void {
    if (this.doc.y + height > this.bottom && this.doc.y > MARGIN) this.newPage();
  }

  private newPage(): void {
    this.doc.addPage();
    this.doc.y = MARGIN;
  }

  private skip(height: number): void {
    if (this.doc.y > MARGIN) this.doc.y += height;
  }

  set(blocks: readonly SheetBlock[], column = this.whole): void {
    blocks.forEach((block, i) => this.block(block, column, blocks[i + 1]));
  }

  private block(block: SheetBlock, column: Column, next: SheetBlock | undefined): void {
    const { size } = this;
    switch (block.type) {
      case 'title':
        this.say(block.text, 'bold', column, size * 2);
        if (block.by) this.say(block.by, 'text', column, size * 1.05);
        this.skip(size * 0.4);
        return;
      case 'heading':
        // A heading stays with what it heads.
        this.need(size * 4 + (next?.type === 'chart' ? this.chartHeight(next.chart, column) : 0));
        this.skip(size * 1.1);
        this.say(block.text, 'bold', column, size * (block.level === 3 ? 1.1 : 1.3));
        this.skip(size * 0.25);
        return;
      case 'text': {
        const face = block.tone === 'plain' ? 'text' : 'italic';
        const used = block.tone === 'small' ? size * 0.9 : size;
        this.skip(block.tone === 'small' ? size : size * 0.3);
        this.need(Math.min(this.heightOf(block.text, face, column.width, used), size * 4));
        this.say(block.text, face, column, used);
        return;
      }
      case 'proof':
        this.skip(size);
        this.need(this.heightOf(block.text, 'text', column.width, size * 0.87));
        this.say(block.text, 'text', column, size * 0.87);
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

  /** Lines of two columns, as rows with their words; none is split over two pages. */
  private pairs(
    lines: readonly (readonly [string, string])[],
    left: Face,
    right: Face,
    column: Column,
  ): void {
    const { doc, size } = this;
    const small = (face: Face) => (face === 'mono' ? size * 0.9 : size);
    this.face(left, small(left));
    const widest = Math.max(0, ...lines.map(([head]) => doc.widthOfString(head)));
    const headWidth = Math.min(widest + size, column.width * 0.34);
    this.skip(size * 0.3);
    // On another page the column may be another.
    const placed = () => ({ x: column.x + headWidth, width: column.width - headWidth });
    for (const [head, said] of lines) {
      const heightHere = () =>
        Math.max(
          this.heightOf(head, left, headWidth - size * 0.5, small(left)),
          this.heightOf(said, right, placed().width, small(right)),
        );
      this.need(heightHere());
      const [top, height] = [doc.y, heightHere()];
      this.say(head, left, { x: column.x, width: headWidth - size * 0.5 }, small(left), top);
      // Figures of both faces stand on one line.
      this.say(said, right, placed(), small(right), top + (right === 'mono' ? size * 0.12 : 0));
      doc.y = Math.max(doc.y, top + height) + size * 0.22;
    }
    doc.x = column.x;
  }

  /** The size of a chart's cells in a column, so that it fits its width and a page's height. */
  private cellOf(chart: Chart, column: Column): number {
    const [rows] = chartParts(chart.rows.length) as [{ from: number; to: number }];
    const box = ChartPainter.sizeOf(chart, this.style, rows);
    const room = this.bottom - MARGIN - this.size * 4;
    return Math.min(this.cell, column.width / box.width, room / box.height);
  }

  private chartHeight(chart: Chart, column: Column): number {
    const [rows] = chartParts(chart.rows.length) as [{ from: number; to: number }];
    return ChartPainter.sizeOf(chart, this.style, rows).height * this.cellOf(chart, column);
  }

  private chart({ chart, caption }: Extract<SheetBlock, { type: 'chart' }>, column: Column): void {
    const { doc, size } = this;
    const cell = this.cellOf(chart, column);
    this.skip(size * 0.4);
    for (const rows of chartParts(chart.rows.length)) {
      const box = ChartPainter.sizeOf(chart, this.style, rows);
      this.need(box.height * cell + (caption ? size * 2 : 0));
      const top = doc.y;
      this.painter.draw(chart, this.style, rows, { x: column.x, y: top, cell });
      doc.y = top + box.height * cell + size * 0.8;
    }
    if (caption) this.say(caption, 'italic', column, size * 0.93);
  }

  private schematic({ picture }: Extract<SheetBlock, { type: 'schematic' }>, column: Column): void {
    const { doc, size } = this;
    const { width, height } = picture.box;
    const unit = Math.min(size, column.width / width);
    this.skip(size * 0.6);
    this.need(height * unit);
    const top = doc.y;
    this.painter.picture(picture, { x: column.x, y: top, cell: unit });
    doc.y = top + height * unit + size * 0.4;
    doc.x = column.x;
  }

  private cloth({ chart, dye }: Extract<SheetBlock, { type: 'cloth' }>, column: Column): void {
    const { doc, size } = this;
    const width = Math.min(CLOTH.width, column.width);
    const height = (width / CLOTH.width) * CLOTH.height;
    this.skip(size * 0.4);
    this.need(height);
    const top = doc.y;
    doc.image(clothPng(chart, dye, CLOTH_PIXELS, BEHIND), column.x, top, { width, height });
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
        const box = ChartPainter.sizeOf(chart, this.style, { from: 0, to: chart.rows.length - 1 });
        return box.width * this.cellOf(chart, beside);
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

  private pageNumber(): number {
    const { start, count } = this.doc.bufferedPageRange();
    return start + count - 1;
  }

  private key({ entries, isBrief }: Extract<SheetBlock, { type: 'key' }>, column: Column): void {
    const { doc, size } = this;
    const most = size * 8.5;
    const words = { x: column.x + most + size, width: column.width - most - size };
    for (const entry of entries) {
      const { stitch, name, takes, makes } = entry;
      const book = bookOf(chartHolding(this.design.charts, stitch ?? 'k'));
      const span = stitch === null ? 1 : spanOf(stitch, book);
      const cell = Math.min(size * 1.6, most / span);
      const lines = keyTold(entry, isBrief).map(({ side, word, steps, loose }) => {
        const said = [word, steps].filter(Boolean).join(': ');
        return `${side ? `${side} ` : ''}${said}${loose ? ` Without a cable needle: ${loose}` : ''}`;
      });
      const head = stitch === null ? name : `${name} (takes ${takes}, makes ${makes})`;
      const height =
        this.heightOf(head, 'bold', words.width) +
        lines.reduce((sum, line) => sum + (line ? this.heightOf(line, 'text', words.width) : 0), 0);
      this.need(Math.max(height, cell));
      const top = doc.y;
      if (stitch !== null)
        this.painter.stitch(drawStitch(stitch, this.style.plain, book), span, {
          x: column.x,
          y: top + 1,
          cell,
        });
      this.say(head, 'bold', words, size, top);
      for (const line of lines) if (line) this.say(line, 'text', words);
      doc.y = Math.max(doc.y, top + cell) + size * 0.5;
    }
    doc.x = column.x;
  }

  /** Numbers the pages and closes the file. */
  async end(): Promise<Pdf> {
    const { doc, size } = this;
    const { count } = doc.bufferedPageRange();
    if (count > 1)
      for (let i = 0; i < count; i++) {
        doc.switchToPage(i);
        // The foot lies in the margin, where text would begin a new page.
        doc.page.margins.bottom = 0;
        this.face('text', size * 0.8);
        doc.fillColor(TOKENS.slate).text(`${i + 1} of ${count}`, MARGIN, doc.page.height - MARGIN * 0.65, {
          width: doc.page.width - 2 * MARGIN,
          align: 'center',
          lineBreak: false,
        });
      }
    doc.end();
    await this.ended;
    return { bytes: Buffer.concat(this.chunks), pages: count, missing: [...this.missing].join('') };
  }
}
