import {
  PAGE_MARGIN,
  styleOf,
  TOKENS,
  type Chart,
  type Design,
  type DrawingStyle,
  type Picture,
} from '@cordelina/core';
import PDFDocument from 'pdfkit';
import { runsOf, type Face } from './fonts.js';
import { ChartPainter } from './painter.js';
import { Tags } from './tags.js';

/** A sheet set on pages; lengths are points. */
export interface Pdf {
  bytes: Uint8Array;
  pages: number;
  /** Characters that the fonts do not have, which stand on the pages as signs for a missing one. */
  missing: string;
}

/** Points in a millimetre. */
export const MM = 72 / 25.4;
/** As the printed page has it. */
export const MARGIN = PAGE_MARGIN * MM;
const SIZES = { usual: 10.5, large: 14.5 };
const CELLS = { usual: 13.5, large: 17 };
export const GAP = 18;
/** Figures of one height and width, as on the screen: numbers are what a pattern is read for. */
const FIGURES: PDFKit.Mixins.OpenTypeFeatures[] = ['lnum', 'tnum'];
const FRACTION: PDFKit.Mixins.OpenTypeFeatures[] = ['frac'];

/** Where something is set, across the page. */
export interface Column {
  readonly x: number;
  readonly width: number;
}

/** Sets text and drawings on pages, tagged for whoever has them read out: what a sheet is made of knows what to set. */
export class Setter {
  protected readonly doc: PDFKit.PDFDocument;
  protected readonly painter: ChartPainter;
  protected readonly tags: Tags;
  /** The bookmark that finer ones stand under. */
  protected chapter: PDFKit.PDFOutline | null = null;
  protected readonly missing = new Set<string>();
  protected readonly size: number;
  protected readonly cell: number;
  protected readonly style: DrawingStyle;
  protected readonly chunks: Buffer[] = [];
  protected readonly ended: Promise<void>;
  protected readonly whole: Column;
  protected readonly fontsKnown = new Set<string>();

  constructor(protected readonly design: Design) {
    const { sheet, settings, title } = design;
    this.doc = new PDFDocument({
      size: sheet.page === 'A4' ? 'A4' : 'LETTER',
      margin: MARGIN,
      bufferPages: true,
      pdfVersion: '1.7',
      tagged: true,
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
    this.tags = new Tags(this.doc);
    this.doc.on('data', (chunk: Buffer) => this.chunks.push(chunk));
    this.ended = new Promise((resolve, reject) => {
      this.doc.on('end', resolve);
      this.doc.on('error', reject);
    });
    this.doc.y = MARGIN;
  }

  protected get bottom(): number {
    return this.doc.page.height - MARGIN;
  }

  protected face(face: Face, size = this.size, part = runsOf('a', face, this.missing)[0]!.part): void {
    if (!this.fontsKnown.has(part.name)) {
      this.doc.registerFont(part.name, part.bytes);
      this.fontsKnown.add(part.name);
    }
    this.doc.font(part.name).fontSize(size);
  }

  /** Sets a text in a column from the place reached, or from `y`; long ones go on over pages. */
  protected say(text: string, face: Face, { x, width }: Column, size = this.size, y = this.doc.y): void {
    const { doc } = this;
    doc.fillColor(TOKENS.peat);
    const runs = runsOf(text, face, this.missing);
    runs.forEach(({ text: said, part, isFraction }, i) => {
      this.face(face, size, part);
      const options = {
        width,
        continued: i < runs.length - 1,
        lineGap: size * 0.12,
        features: isFraction ? FRACTION : FIGURES,
      };
      if (i === 0) doc.text(said, x, y, options);
      else doc.text(said, options);
    });
    doc.x = x;
  }

  protected heightOf(text: string, face: Face, width: number, size = this.size): number {
    this.face(face, size);
    return this.doc.heightOfString(text, { width, lineGap: size * 0.12, features: FIGURES });
  }

  /** Goes to a new page where less than this is left of the one. */
  protected need(height: number): void {
    if (this.doc.y + height > this.bottom && this.doc.y > MARGIN) this.newPage();
  }

  protected newPage(): void {
    this.doc.addPage();
    this.doc.y = MARGIN;
  }

  protected skip(height: number): void {
    if (this.doc.y > MARGIN) this.doc.y += height;
  }

  /** A bookmark at the place reached; finer ones stand under the one before them. */
  protected mark(text: string, level: 1 | 2 | 3): void {
    const above = level === 3 ? this.chapter : null;
    const item = (above ?? this.doc.outline).addItem(text, { expanded: level === 1 });
    if (level === 2) this.chapter = item;
  }

  /** The width of the left of two columns, as wide as the widest of it, to a bound. */
  protected headWidth(heads: readonly string[], face: Face, column: Column): number {
    this.face(face, this.smaller(face));
    const widest = Math.max(0, ...heads.map((head) => this.doc.widthOfString(head)));
    return Math.min(widest + this.size, column.width * 0.34);
  }

  /** Letters all of one width look larger than they are. */
  protected smaller(face: Face): number {
    return face === 'mono' ? this.size * 0.9 : this.size;
  }

  protected pairHeight(
    head: string,
    said: string,
    left: Face,
    right: Face,
    column: Column,
    heads: readonly string[],
  ): number {
    const width = this.headWidth(heads, left, column);
    return Math.max(
      this.heightOf(head, left, width - this.size * 0.5, this.smaller(left)),
      this.heightOf(said, right, column.width - width, this.smaller(right)),
    );
  }

  /** Lines of two columns, as rows with their words, a table to whoever has it read out; none is split over two pages. */
  protected pairs(
    lines: readonly (readonly [string, string])[],
    left: Face,
    right: Face,
    column: Column,
  ): void {
    const { doc, size, tags } = this;
    const heads = lines.map(([head]) => head);
    const headWidth = this.headWidth(heads, left, column);
    this.skip(size * 0.3);
    // On another page the column may be another.
    const placed = () => ({ x: column.x + headWidth, width: column.width - headWidth });
    tags.group('Table', () => {
      for (const [head, said] of lines) {
        const heightHere = () => this.pairHeight(head, said, left, right, column, heads);
        this.need(heightHere());
        const [top, height] = [doc.y, heightHere()];
        tags.group('TR', () => {
          tags.leaf(
            'TH',
            () =>
              this.say(head, left, { x: column.x, width: headWidth - size * 0.5 }, this.smaller(left), top),
            { scope: 'Row' },
          );
          // Figures of both faces stand on one line.
          const shift = right === 'mono' ? size * 0.12 : 0;
          tags.leaf('TD', () => this.say(said, right, placed(), this.smaller(right), top + shift));
        });
        doc.y = Math.max(doc.y, top + height) + size * 0.22;
      }
    });
    doc.x = column.x;
  }

  /** A drawing at the place reached, with what is read in its place. */
  protected drawing(picture: Picture, unit: number, { x }: Column, alt: string, chart?: Chart): void {
    const { doc, tags } = this;
    const [width, height] = [picture.box.width * unit, picture.box.height * unit];
    this.need(height);
    const top = doc.y;
    tags.leaf('Figure', () => this.painter.picture(picture, { x, y: top, cell: unit }, chart), {
      alt,
      bbox: [x, top, x + width, top + height],
    });
    doc.y = top + height + this.size * 0.4;
    doc.x = x;
  }

  protected pageNumber(): number {
    const { start, count } = this.doc.bufferedPageRange();
    return start + count - 1;
  }

  /** Puts a foot under every page, and closes the file. */
  async end(): Promise<Pdf> {
    const { doc } = this;
    const { count } = doc.bufferedPageRange();
    this.tags.end();
    for (let i = 0; i < count; i++) {
      doc.switchToPage(i);
      // The foot lies in the margin, where text would begin a new page.
      doc.page.margins.bottom = 0;
      this.tags.artifact(() => this.foot(i + 1, count));
    }
    doc.end();
    await this.ended;
    return { bytes: Buffer.concat(this.chunks), pages: count, missing: [...this.missing].join('') };
  }

  /** The title at the left, cut where it is long, and the page at the right. */
  protected foot(page: number, pages: number): void {
    const { doc } = this;
    const size = this.size * 0.8;
    const y = doc.page.height - MARGIN * 0.65;
    doc.fillColor(TOKENS.slate);
    this.face('text', size);
    const told = `${page} of ${pages}`;
    const width = doc.widthOfString(told, { features: FIGURES });
    doc.text(told, this.whole.x + this.whole.width - width, y, { lineBreak: false, features: FIGURES });
    let left = this.whole.width - width - GAP;
    let { x } = this.whole;
    for (const { text, part, isFraction } of runsOf(this.design.title, 'text', this.missing)) {
      this.face('text', size, part);
      const features = isFraction ? FRACTION : FIGURES;
      let said = text;
      while (said && doc.widthOfString(said, { features }) > left) said = said.slice(0, -1);
      doc.fillColor(TOKENS.slate).text(said, x, y, { lineBreak: false, features });
      const set = doc.widthOfString(said, { features });
      [x, left] = [x + set, left - set];
      if (said !== text) return;
    }
  }
}
