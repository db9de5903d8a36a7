import {
  ChartSchema,
  SECTIONS,
  SheetSchema,
  sheetOf,
  simpleCrossing,
  startDesign,
  writeDesign,
  type Design,
} from '@cordelina/core';
import { expect } from 'chai';
import { randomUUID } from 'node:crypto';
import { demoDesigns } from '../src/demo/designs.js';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import request from 'supertest';
import { testApp, type Api } from './support.js';

/** Files are taken apart by pdf.js, a reader of PDF that has nothing to do with what made them. */

interface Page {
  width: number;
  height: number;
  /** Lines of text, each as wide apart as it is read, from the top. */
  words: { text: string; x: number; y: number }[];
}

async function pagesOf(bytes: Uint8Array): Promise<{ pages: Page[]; info: Record<string, unknown> }> {
  const file = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
  const pages: Page[] = [];
  for (let i = 1; i <= file.numPages; i++) {
    const page = await file.getPage(i);
    const [, , width, height] = page.view as [number, number, number, number];
    const { items } = await page.getTextContent();
    const words = items.flatMap((item) => {
      if (!('str' in item) || !item.str.trim()) return [];
      const [, , , , x, y] = item.transform as [number, number, number, number, number, number];
      return [{ text: item.str, x, y }];
    });
    pages.push({ width, height, words });
  }
  const { info } = await file.getMetadata();
  return { pages, info: info as Record<string, unknown> };
}

const textOf = ({ words }: Page): string =>
  words
    .map((w) => w.text)
    .join(' ')
    .replace(/\s+/g, ' ');
/** Without spaces: where a line is broken is the page's affair. */
const bare = (text: string): string => text.replace(/\s+/g, '');

/** A tall chart of which no two rows are alike, so that its rows fill pages. */
const tall = ChartSchema.parse({
  width: 24,
  rows: Array.from({ length: 90 }, (_, r) => {
    const at = (r * 7) % 20;
    const ground = Array.from({ length: 24 }, (_, c) => ((c + r) % 5 < 2 ? 'p' : 'k'));
    return r % 4 === 2
      ? [...ground.slice(0, at), simpleCrossing('left', 2, 2), ...ground.slice(at + 4)]
      : ground;
  }),
});

const designOf = (sheet: object = {}, charts = [tall], title = 'Tarn wrap'): Design => ({
  ...startDesign(randomUUID(), title, charts[0]!),
  charts,
  sheet: SheetSchema.parse(sheet),
});

describe('a sheet as a PDF', () => {
  let api: Api;
  before(async () => {
    api = await testApp();
  });
  after(() => api.close());

  const made = async (document: unknown) => {
    const answer = await request(api.app)
      .post('/api/pdf')
      .send({ document })
      .buffer(true)
      .parse((res, done) => {
        const chunks: Buffer[] = [];
        res.on('data', (chunk: Buffer) => chunks.push(chunk));
        res.on('end', () => done(null, Buffer.concat(chunks)));
      })
      .expect(200)
      .expect('content-type', 'application/pdf');
    return {
      ...(await pagesOf(answer.body as Buffer)),
      headers: answer.headers,
      bytes: answer.body as Buffer,
    };
  };

  it('holds a picture of the cloth, opaque and as large as it is set', async () => {
    const plain = await made(designOf({ order: ['rows'] }));
    const shown = await made(designOf({ order: ['rows', 'cloth'] }));
    expect(shown.bytes.length).to.be.greaterThan(plain.bytes.length + 50_000);
    expect(shown.bytes.toString('latin1')).to.match(/\/Subtype \/Image[^]*\/Width 680[^]*\/Height 450/);
    expect(shown.bytes.toString('latin1')).not.to.match(/\/SMask/);
  });

  it('says all that the sheet does, every row on one page with all its words', async () => {
    for (const beside of [false, true]) {
      const design = designOf({
        beside,
        order: [...SECTIONS],
        materials: 'A needle of 4 mm.',
        by: 'The hut',
      });
      const { pages, info, headers } = await made(design);
      expect(headers['x-pages']).to.equal(String(pages.length));
      expect(info).to.include({ Title: 'Tarn wrap', Author: 'The hut' });
      const written = writeDesign(design.charts, design.piece, design.settings);
      const texts = pages.map((page) => bare(textOf(page)));
      for (const block of sheetOf(design, written, true)) {
        const blocks = block.type === 'beside' ? block.left : [block];
        for (const b of blocks) {
          if (b.type === 'rows')
            for (const { head, words } of b.rows)
              expect(
                texts.filter((text) => text.includes(bare(`${head}${words}`))),
                head,
              ).to.have.length(1);
          if (b.type === 'heading' || b.type === 'text' || b.type === 'proof')
            expect(texts.join(''), b.text).to.contain(bare(b.text));
        }
      }
      // All that is printed lies on its page.
      for (const page of pages)
        for (const { x, y } of page.words) {
          expect(x).to.be.within(20, page.width - 20);
          expect(y).to.be.within(15, page.height - 20);
        }
    }
  });

  it('has the piece in all its sizes, its schematic drawn to scale', async () => {
    const vest = demoDesigns().find((d) => d.piece !== null)!;
    const { pages } = await made(vest);
    const text = pages.map((page) => bare(textOf(page))).join('');
    const { piece } = writeDesign(vest.charts, vest.piece, vest.settings);
    for (const { rows } of piece!.sections)
      for (const { words } of rows) expect(text).to.contain(bare(words));
    const [, ...others] = piece!.sizes.map((s) => s.castOn);
    expect(text).to.contain(bare(`Cast on ${piece!.sizes[0]!.castOn} (${others.join(', ')}) sts.`));
    // Its measures stand beside the drawing, the legend of its panels under them.
    const page = pages.find((p) => p.words.some((w) => w.text === 'a Plait'))!;
    const at = (start: string) => page.words.find((w) => w.text.startsWith(start))!;
    expect(at('54.4 (').y).to.be.greaterThan(at('a Plait').y);
    expect(at('43.6 (').y).to.be.below(at('c Plait mirrored').y);
  });

  it('has the page that is asked for, and larger print where it is', async () => {
    const sizes = await Promise.all(
      [{}, { page: 'Letter' }, { large: true }].map(async (sheet) => (await made(designOf(sheet))).pages),
    );
    // A4 and US Letter in points, by ISO 216 and ANSI/ASME Y14.1, from memory.
    expect([sizes[0]![0]!.width, sizes[0]![0]!.height].map(Math.round)).to.deep.equal([595, 842]);
    expect([sizes[1]![0]!.width, sizes[1]![0]!.height]).to.deep.equal([612, 792]);
    expect(sizes[2]!.length).to.be.greaterThan(sizes[0]!.length);
  });

  it('draws charts as lines and embeds its fonts', async () => {
    const { bytes } = await made(designOf());
    const text = bytes.toString('latin1');
    expect(text).not.to.contain('/Subtype /Image');
    expect(text.match(/\/Subtype \/Form/g)!.length).to.be.greaterThan(2);
    expect(text.match(/\/FontFile2/g)!.length).to.be.at.least(3);
    // Each mark is in the file once, however many cells it stands in.
    expect(bytes.length).to.be.below(200_000);
  });

  it('sets what is written in other alphabets, and says which characters it cannot', async () => {
    const { pages, headers } = await made(designOf({}, [tall], 'Šumava Άνδρος Шарф 漢'));
    expect(bare(textOf(pages[0]!))).to.contain('ŠumavaΆνδροςШарф');
    expect(decodeURIComponent(headers['x-missing'] as string)).to.equal('漢');
  });

  it('is refused for a document that is none, and for more than one file should hold', async () => {
    const refused = (document: unknown, status: number) =>
      request(api.app).post('/api/pdf').send({ document }).expect(status);
    const none = await refused({ title: 'none' }, 400);
    expect(none.body.error.message).to.contain('names no format');
    const row = Array<string>(600).fill('k');
    const large = ChartSchema.parse({ width: 600, rows: Array.from({ length: 500 }, () => row) });
    const answer = await refused(designOf({}, [large]), 413);
    expect(answer.body.error.message).to.contain('300000 cells');
  });

  /** A node of the tree of what is read, as pdf.js tells it. */
  interface Node {
    role?: string;
    alt?: string;
    type?: string;
    children?: Node[];
  }
  const all = (node: Node): Node[] => [node, ...(node.children ?? []).flatMap(all)];
  const roles = (node: Node, role: string): Node[] => all(node).filter((n) => n.role === role);

  const opened = async (document: unknown) => {
    const { bytes } = await made(document);
    const file = await getDocument({ data: new Uint8Array(bytes), verbosity: 0 }).promise;
    const trees: Node[] = [];
    for (let i = 1; i <= file.numPages; i++) trees.push(await (await file.getPage(i)).getStructTree());
    return { file, trees };
  };

  it('is tagged: headings, rows as a table with heads, and every drawing with what is read in its place', async () => {
    const vest = demoDesigns().find((d) => d.piece !== null)!;
    const { file, trees } = await opened(vest);
    expect(await file.getMarkInfo()).to.include({ Marked: true });
    const found = (role: string) => trees.flatMap((tree) => roles(tree, role));
    expect(found('H1')).to.have.length(1);
    expect(found('H2').length).to.be.greaterThan(5);
    const figures = found('Figure');
    expect(figures.length).to.be.greaterThan(3);
    for (const { alt } of figures) expect(alt, 'a figure without words').to.match(/\S/);
    expect(figures.some(({ alt }) => /^Chart of .*columns.*rows/.test(alt!))).to.equal(true);
    // Each row of a table has a head and what it heads.
    const rows = found('TR');
    expect(rows.length).to.be.greaterThan(30);
    for (const row of rows) {
      const own = (row.children ?? []).map(({ role }) => role);
      // What a word of the key means may be said in its head alone.
      expect(own[0]).to.equal('TH');
      expect(own.slice(1).every((role) => role === 'TD')).to.equal(true);
    }
  });

  it('is read in the order in which it is printed', async () => {
    const design = designOf({ order: [...SECTIONS], materials: 'A needle of 4 mm.' });
    const { file, trees } = await opened(design);
    const written = writeDesign(design.charts, design.piece, design.settings);
    const headings = sheetOf(design, written, true).flatMap((b) => (b.type === 'heading' ? [b.text] : []));
    const told: string[] = [];
    for (let i = 1; i <= file.numPages; i++) {
      const page = await file.getPage(i);
      const { items } = await page.getTextContent({ includeMarkedContent: true });
      const texts = new Map<string, string>();
      let id: string | null = null;
      for (const item of items)
        if ('str' in item) {
          if (id) texts.set(id, (texts.get(id) ?? '') + item.str);
        } else if (item.type === 'beginMarkedContentProps') id = (item as { id: string | null }).id;
        else if (item.type === 'endMarkedContent') id = null;
      for (const { children } of roles(trees[i - 1]!, 'H2'))
        told.push((children ?? []).map((c) => texts.get((c as { id?: string }).id ?? '') ?? '').join(''));
    }
    expect(told.map(bare)).to.deep.equal(headings.map(bare));
  });

  it('has a bookmark for each heading, and at the foot of every page the title and the page', async () => {
    const design = designOf({ order: [...SECTIONS] }, [tall], 'Tarn wrap, ⅜ wide');
    const { file } = await opened(design);
    const written = writeDesign(design.charts, design.piece, design.settings);
    const headings = sheetOf(design, written, true).flatMap((b) => (b.type === 'heading' ? [b.text] : []));
    const outline = await file.getOutline();
    expect(outline.map(({ title }) => title)).to.deep.equal(['Tarn wrap, ⅜ wide', ...headings]);
    const { pages } = await made(design);
    for (const [i, page] of pages.entries()) {
      const foot = page.words.filter(({ y }) => y < 40).map(({ text }) => text);
      expect(bare(foot.join('')))
        .to.contain('Tarnwrap')
        .and.to.contain(bare(`${i + 1} of ${pages.length}`));
    }
  });

  it('leaves no heading alone at the foot of a page', async () => {
    for (const rows of [30, 41, 47, 53, 60]) {
      const some = ChartSchema.parse({ ...tall, rows: tall.rows.slice(0, rows) });
      // The picture of the cloth has no words by which it could be seen here.
      const order = SECTIONS.filter((section) => section !== 'cloth');
      const design = designOf({ order, large: rows % 2 === 1 }, [some]);
      const { pages } = await made(design);
      const written = writeDesign(design.charts, design.piece, design.settings);
      const headings = new Set(
        sheetOf(design, written, true).flatMap((b) => (b.type === 'heading' ? [bare(b.text)] : [])),
      );
      for (const page of pages.slice(0, -1)) {
        const lowest = page.words.filter(({ y }) => y > 42).sort((a, b) => a.y - b.y)[0]!;
        expect(headings.has(bare(lowest.text)), `${rows} rows: ${lowest.text}`).to.equal(false);
      }
    }
  });

  it('cuts a chart that is wider than the page into strips, each numbered and with cells of 4 mm at least', async () => {
    const row = Array.from({ length: 120 }, (_, c) => (c % 7 ? 'k' : 'p'));
    const wide = ChartSchema.parse({ width: 120, rows: Array.from({ length: 60 }, () => row) });
    const design = designOf({ order: ['charts'] }, [wide]);
    const { pages } = await made(design);
    const text = pages.map(textOf).join(' ');
    for (let part = 1; part <= 6; part++) expect(text).to.contain(`Part ${part} of 6: columns`);
    // Numbers of columns five apart stand as far apart as five cells.
    const spread = pages.flatMap(({ words }) => {
      const numbers = words.filter(({ text: said }) => /^\d+$/.test(said) && Number(said) % 5 === 0);
      return numbers.flatMap((a) =>
        numbers
          .filter((b) => Math.abs(a.y - b.y) < 1 && Number(b.text) === Number(a.text) + 5)
          .map((b) => Math.abs(a.x - b.x) / 5),
      );
    });
    expect(spread.length).to.be.greaterThan(20);
    expect(Math.min(...spread)).to.be.at.least((4 * 72) / 25.4 - 0.2);
    const { trees } = await opened(design);
    expect(
      trees.flatMap((tree) => roles(tree, 'Figure')).filter(({ alt }) => alt!.startsWith('Plan of')),
    ).to.have.length(1);
  });

  it('sets every fraction, out of figures where the face has no sign for it', async () => {
    const { pages, headers } = await made(
      designOf({ materials: 'Needles of ⅛ ⅓ ⅜ ⅔ ⅝ ⅞ ½ ¼ ¾ in.', order: ['materials'] }),
    );
    expect(headers['x-missing']).to.equal('');
    expect(bare(textOf(pages[0]!))).to.match(/1.8.*1.3.*3.8.*2.3.*5.8.*7.8/);
  });
});
