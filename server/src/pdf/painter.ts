import {
  inksOfMark,
  PRINT_INKS,
  TOKENS,
  type Chart,
  type Mark,
  type Picture,
  type Shape,
} from '@cordelina/core';
type Doc = PDFKit.PDFDocument;

/** Draws charts into a PDF as vectors. Each mark is put into the file once, and its cells only point to it. */
export class ChartPainter {
  private readonly forms = new Map<string, { name: string; form: unknown }>();

  constructor(
    private readonly doc: Doc,
    private readonly say: (
      text: string,
      at: { x: number; y: number; size: number; anchor: string; ink: string },
    ) => void,
  ) {}

  /** Draws a picture with its upper left corner at x, y; `cell` is its unit in points. Marks are those of a chart. */
  picture({ box, clip, figures }: Picture, at: { x: number; y: number; cell: number }, chart?: Chart): void {
    const { doc } = this;
    doc.save();
    doc.translate(at.x, at.y).scale(at.cell).translate(-box.x, -box.y);
    const drawn = (isText: boolean) => {
      for (const figure of figures)
        if ((figure.kind === 'text') !== isText) continue;
        else if (figure.kind === 'path') this.path(figure.d, figure);
        else if (figure.kind === 'text') this.say(figure.text, figure);
        else if (chart) this.mark(figure.mark, figure.x, figure.y, chart);
    };
    if (clip) doc.save().rect(clip.x, clip.y, clip.width, clip.height).clip();
    drawn(false);
    if (clip) doc.restore();
    drawn(true);
    doc.restore();
  }

  /** One stitch in a cell of its own. */
  stitch(shapes: readonly Shape[], span: number, at: { x: number; y: number; cell: number }): void {
    const { doc } = this;
    doc.save();
    doc.translate(at.x, at.y).scale(at.cell);
    doc.lineWidth(0.05).rect(0, 0, span, 1).fillAndStroke(PRINT_INKS.casing, TOKENS.ruleHeavy);
    this.shapes(shapes, PRINT_INKS);
    doc.restore();
  }

  private path(
    d: string,
    { fill, stroke, width = 0.06 }: { fill?: string; stroke?: string; width?: number },
  ): void {
    if (!d || (!fill && !stroke)) return;
    const { doc } = this;
    doc.lineWidth(width).lineJoin('round').path(d);
    if (fill && stroke) doc.fillAndStroke(fill, stroke);
    else if (fill) doc.fill(fill);
    else doc.stroke(stroke);
  }

  private shapes(shapes: readonly Shape[], inks: typeof PRINT_INKS): void {
    for (const { d, dx, fill, stroke, width } of shapes) {
      if (dx) this.doc.save().translate(dx, 0);
      this.path(d, { fill: fill && inks[fill], stroke: stroke && inks[stroke], width });
      if (dx) this.doc.restore();
    }
  }

  private mark(mark: Mark, x: number, y: number, { own }: Chart): void {
    const { doc } = this;
    const key = own.some((o) => o.id === mark.key) ? JSON.stringify([mark.key, mark.shapes]) : mark.key;
    let known = this.forms.get(key);
    if (!known) this.forms.set(key, (known = this.form(mark, `Mark${this.forms.size}`)));
    const { name, form } = known;
    // What pdfkit keeps of a page's forms: the same place its pictures are named in.
    (doc.page as unknown as { xobjects: Record<string, unknown> }).xobjects[name] ??= form;
    doc.addContent(`q 1 0 0 1 ${x} ${y} cm /${name} Do Q`);
    const { letter } = inksOfMark(mark, PRINT_INKS);
    if (letter) this.say(letter, { x: x + 0.2, y: y + 0.3, size: 0.36, anchor: 'middle', ink: TOKENS.peat });
  }

  /** A mark as a form of its own in the file. */
  private form(mark: Mark, name: string): { name: string; form: unknown } {
    const { doc } = this;
    const { reach, span } = mark;
    const content: string[] = [];
    const add = doc.addContent.bind(doc);
    doc.addContent = (data: unknown) => {
      content.push(String(data));
      return doc;
    };
    try {
      if (mark.isWhole) doc.rect(0.03, 0.03, span - 0.06, 0.94).fill(PRINT_INKS.casing);
      this.shapes(mark.shapes, inksOfMark(mark, PRINT_INKS).inks);
    } finally {
      doc.addContent = add;
    }
    const form = doc.ref({
      Type: 'XObject',
      Subtype: 'Form',
      BBox: [-reach.left - 1, -1, span + reach.right + 1, 2],
      Resources: { ProcSet: ['PDF'] },
    });
    form.end(Buffer.from(content.join('\n')));
    return { name, form };
  }
}
