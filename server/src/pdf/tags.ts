/** What a part of a sheet is, for whoever has it read out: the structure types of a tagged PDF (ISO 32000-1, 14.8.4). */
export type Tag = 'H1' | 'H2' | 'H3' | 'P' | 'Figure' | 'Caption' | 'Table' | 'TR' | 'TH' | 'TD' | 'Sect';

export interface Told {
  /** What is read in place of a drawing. */
  alt?: string;
  /** Of which cells a heading cell is the heading. */
  scope?: 'Row' | 'Column';
  /** Where on its page a figure lies: left, top, right, bottom. */
  bbox?: [number, number, number, number];
}

/**
 * Tags what is drawn into a PDF, in the order in which it is read. What is drawn within `leaf` belongs to its element, on however
 * many pages; `group` holds elements; what is nobody's to read, as a page's number, is an artifact.
 */
export class Tags {
  private readonly root: PDFKit.PDFStructureElement;
  private within: PDFKit.PDFStructureElement;

  constructor(private readonly doc: PDFKit.PDFDocument) {
    this.root = doc.struct('Document');
    doc.addStructure(this.root);
    this.within = this.root;
  }

  private element(tag: Tag, told: Told): PDFKit.PDFStructureElement {
    const element = this.doc.struct(tag, told);
    this.within.add(element);
    return element;
  }

  leaf(tag: Tag, draw: () => void, told: Told = {}): void {
    const element = this.element(tag, told);
    const content = this.doc.markStructureContent(tag);
    draw();
    this.doc.endMarkedContent();
    element.add(content);
    element.end();
  }

  group(tag: Tag, work: () => void, told: Told = {}): void {
    const above = this.within;
    this.within = this.element(tag, told);
    try {
      work();
    } finally {
      this.within.end();
      this.within = above;
    }
  }

  artifact(draw: () => void): void {
    this.doc.markContent('Artifact', { type: 'Pagination' });
    draw();
    this.doc.endMarkedContent();
  }

  end(): void {
    this.root.end();
  }
}
