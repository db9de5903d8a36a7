import Ajv from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import { expect } from 'chai';
import fc from 'fast-check';
import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';
import readExcel, { readSheetNames } from 'read-excel-file/node';
import {
  Archive,
  csvOf,
  designOfFile,
  designSchema,
  DocumentError,
  FileFault,
  fileOf,
  filesIn,
  FORMATS,
  leftOut,
  pictureOf,
  PRINT_INKS,
  readDesign,
  restored,
  restorePlanOf,
  rowsOfHead,
  sameValue,
  sheetsOfXlsx,
  startDesign,
  styleOf,
  svgFile,
  tablesOf,
  xlsxOf,
  type Design,
  type Keeping,
} from '../src/index.js';
import { MANIFEST, SUMS, sumOf, sumsText } from '../src/files/archive.js';
import { anyChart, THOROUGH } from './arbitrary.js';
import { design as pieced, rope } from './pieces.js';

/** Open files, opened by libraries that know nothing of this program; and files that mean harm. */

const ID = '00000000-0000-4000-8000-000000000001';
const OTHER = '00000000-0000-4000-8000-000000000002';
const design: Design = { ...startDesign(ID, 'Rope & <cord>', { ...rope, name: 'Rope' }), notes: '=1+1' };
const bytesOf = async (of: Design, id: 'json' | 'xlsx' | 'csv') => {
  const made = await fileOf(of, id);
  return typeof made === 'string' ? strToU8(made) : made;
};
const fault = async (work: () => unknown): Promise<string> => {
  try {
    await work();
  } catch (error) {
    if (error instanceof FileFault || error instanceof DocumentError) return error.message;
    throw error;
  }
  return '';
};

describe('open files', () => {
  it('come back from every format that holds a design, or what is lost is said', async () => {
    await fc.assert(
      fc.asyncProperty(anyChart(), fc.constantFrom('json', 'xlsx', 'csv'), async (chart, format) => {
        const of = { ...startDesign(ID, 'Any', chart), tags: ['told'] };
        const read = await designOfFile(await bytesOf(of, format), 'any', OTHER);
        if (read.format === 'words' || !read.design) throw new Error('no design came back');
        expect(read.format).to.equal(format);
        expect(read.design.id).to.equal(OTHER);
        expect(sameValue(read.design.charts, of.charts)).to.equal(true);
        expect(sameValue({ ...read.design, id: ID }, of)).to.equal(leftOut(of, format).length === 0);
      }),
      { numRuns: 12 * THOROUGH },
    );
  });

  it('are told by how they begin, not by their names', async () => {
    const csv = await designOfFile(strToU8(csvOf(tablesOf(design))), 'a.json', OTHER);
    expect(csv.format).to.equal('csv');
    const words = await designOfFile(strToU8('Row 1: k4.'), 'a.xlsx', OTHER);
    expect(words).to.deep.equal({ format: 'words', text: 'Row 1: k4.' });
    // What spreadsheets of some countries save: another alphabet, a mark before the first letter.
    const latin = csvOf(tablesOf({ ...design, title: 'Nœud pressé' })).replace('œ', 'o');
    const read = await designOfFile(
      Uint8Array.from(latin, (c) => c.charCodeAt(0)),
      'x',
      OTHER,
    );
    expect('design' in read && read.design?.title).to.equal('Noud pressé');
    const marked = await designOfFile(strToU8(`\uFEFF${csvOf(tablesOf(design))}`), 'x', OTHER);
    expect('design' in marked && marked.design !== null).to.equal(true);
  });

  it('bring older documents up to date, and refuse newer ones with the format they would need', async () => {
    const old = { format: 1, id: ID, title: 'Old', charts: [{ width: 2, rows: [['k', 'k']] }] };
    const read = await designOfFile(strToU8(JSON.stringify(old)), 'old.json', OTHER);
    expect('design' in read && read.design?.format).to.equal(8);
    expect(await fault(() => designOfFile(strToU8('{"format":99}'), 'x', OTHER))).to.match(
      /format 99; this program reads up to format 8/,
    );
  });

  it('as workbooks are opened by a library of others: a sheet a chart, numbers as numbers, nothing that runs', async () => {
    const bytes = Buffer.from(await xlsxOf(tablesOf(design)));
    expect(await readSheetNames(bytes)).to.deep.equal(['Design', 'Rope', 'Key']);
    const rows = await readExcel(bytes, { sheet: 'Rope' });
    const head = rows.findIndex(([first]) => first === 'Row');
    expect(rows[head]!.slice(2, -1)).to.deep.equal(
      Array.from({ length: rope.width }, (_, i) => rope.width - i),
    );
    expect(rows.at(-1)!.slice(0, 2)).to.deep.equal([1, 'RS']);
    expect(rows.at(-1)!.at(-1)).to.equal(rope.width);
    // A text that begins like a formula is a text.
    expect((await readExcel(bytes, { sheet: 'Design' })).flat()).to.include('=1+1');
    for (const [name, file] of Object.entries(unzipSync(bytes)))
      if (name.startsWith('xl/worksheets/')) expect(strFromU8(file), name).to.not.match(/<f[ >]/);
  });

  it('as workbooks saved by others come back: rich text, shared text, values of formulas', async () => {
    const files = unzipSync(await xlsxOf(tablesOf(design)));
    const sheet = Object.keys(files).find((name) => /worksheets\/sheet1\.xml$/.test(name))!;
    const xml = strFromU8(files[sheet]!).replace(
      /<c r="B1"[^>]*>.*?<\/c>/,
      '<c r="B1" t="str"><f>"From "&amp;"a formula"</f><v>From a formula</v></c>',
    );
    const [first] = await sheetsOfXlsx(zipSync({ ...files, [sheet]: strToU8(xml) } as Zippable));
    expect(first!.cells[0]![1]).to.equal('From a formula');
  });

  it('as drawings are sound XML with a group for each row and each stitch', () => {
    for (const of of [design, pieced])
      for (const chart of of.charts) {
        const style = styleOf(of.settings);
        const svg = svgFile(
          pictureOf(chart, style, PRINT_INKS),
          { inks: PRINT_INKS, isNamed: true, nameOf: () => '<&"\u0007' },
          { title: of.title, cell: 5 },
        );
        expect(XMLValidator.validate(svg)).to.equal(true);
        const { svg: root } = new XMLParser({ ignoreAttributes: false }).parse(svg) as {
          svg: Record<string, unknown>;
        };
        expect(String(root['@_width'])).to.match(/^[\d.]+mm$/);
        expect(svg).to.not.match(/<script|on\w+=|href="(?!#)/);
        chart.rows.forEach((_, r) => expect(svg).to.contain(`id="row-${r + 1}"`));
      }
  });

  it('as a page hold every printed row and run nothing from elsewhere', async () => {
    const page = (await fileOf(pieced, 'html')) as string;
    expect(page).to.contain("default-src 'none'");
    expect(page).to.not.match(/(?:src|href)="(?!#)/);
    expect(page.match(/<input type="checkbox"/g)!.length).to.be.greaterThan(
      pieced.charts[0]!.rows.length - 1,
    );
    expect(rowsOfHead('Rows 4, 6 and 8–10 (WS)')).to.deep.equal([4, 6, 8, 9, 10]);
    expect(rowsOfHead('Round 1, S')).to.deep.equal([1]);
  });

  it('follow the published schema, checked from outside', () => {
    const ajv = new Ajv({ strict: false });
    addFormats(ajv);
    const validate = ajv.compile(designSchema());
    fc.assert(
      fc.property(anyChart(), (chart) => {
        const document: unknown = JSON.parse(
          JSON.stringify(startDesign(ID, 'Any', { ...chart, construction: 'flat' })),
        );
        expect(validate(document), JSON.stringify(validate.errors)).to.equal(true);
      }),
      { numRuns: 20 * THOROUGH },
    );
    for (const wrong of [
      { ...design, title: 5 },
      { ...design, charts: [] },
      { ...design, extra: 1 },
      { ...design, charts: [{ ...rope, rows: [[7]] }] },
    ])
      expect(validate(JSON.parse(JSON.stringify(wrong)))).to.equal(false);
    expect(FORMATS.filter(({ comesBack }) => comesBack).map(({ id }) => id)).to.deep.equal([
      'json',
      'xlsx',
      'csv',
    ]);
  });
});

describe('hostile files', () => {
  const bomb = (name: string, megabytes: number) =>
    zipSync({ [name]: new Uint8Array(megabytes * 1024 * 1024) }, { level: 9 });

  it('are refused in one sentence, whatever they pretend to be', async () => {
    const book = await xlsxOf(tablesOf(design));
    const inside = unzipSync(book);
    const sheet = Object.keys(inside).find((name) => /worksheets\/sheet2\.xml$/.test(name))!;
    const changed = (with_: (xml: string) => string) =>
      zipSync({ ...inside, [sheet]: strToU8(with_(strFromU8(inside[sheet]!))) } as Zippable);
    for (const [what, bytes] of [
      ['nothing', new Uint8Array()],
      ['a picture', Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0])],
      ['half of a document', strToU8('{"format":8,"id":')],
      ['a zip bomb', bomb('xl/worksheets/sheet1.xml', 120)],
      ['a zip cut off', book.subarray(0, book.length >> 1)],
      ['a zip of nothing known', zipSync({ 'a.bin': new Uint8Array(4) })],
      ['a row beyond all rows', changed((xml) => xml.replace('<row r="1"', '<row r="999999999"'))],
      ['broken XML', changed((xml) => xml.slice(0, xml.length >> 1))],
      [
        'an entity bomb',
        changed((xml) =>
          xml
            .replace(/^<\?xml[^>]*>/, '$&<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]>')
            .replace('<sheetData>', '<sheetData>&b;'),
        ),
      ],
    ] as const) {
      const began = performance.now();
      const said = await fault(async () => {
        for (const one of filesIn(bytes, 'x')) {
          const read = await designOfFile(one.bytes, one.name, OTHER);
          if (read.format === 'words' || !read.design)
            throw new FileFault(read.format === 'words' ? 'words' : (read.faults[0]?.message ?? 'nothing'));
        }
      });
      expect(said, what).to.match(/^[A-Z"].*[.]$|^words$/s);
      expect(said.split('\n').length, what).to.equal(1);
      // A bound with room: seconds on the slowest machine, not minutes.
      expect(performance.now() - began, what).to.be.below(20_000);
    }
  });

  it('that merge or check endless ranges cost nothing', async () => {
    const inside = unzipSync(await xlsxOf(tablesOf(design)));
    const sheet = Object.keys(inside).find((name) => /worksheets\/sheet2\.xml$/.test(name))!;
    const xml = strFromU8(inside[sheet]!).replace(
      '</sheetData>',
      '</sheetData><mergeCells count="1"><mergeCell ref="A2000:XFD1048576"/></mergeCells><dataValidations count="1"><dataValidation type="list" sqref="A1:XFD1048576"><formula1>"a"</formula1></dataValidation></dataValidations>',
    );
    const read = await designOfFile(zipSync({ ...inside, [sheet]: strToU8(xml) } as Zippable), 'x', OTHER);
    expect('design' in read && read.design !== null).to.equal(true);
  });

  it('with paths in their names are only names', () => {
    const zip = zipSync({ '../../etc/evil.json': strToU8('{}'), 'C:\\x\\b.csv': strToU8('a') });
    expect(filesIn(zip, 'z').map(({ name }) => name)).to.deep.equal(['evil.json', 'b.csv']);
  });

  it('of any bytes, and spoiled ones of ours, end in a design or one sentence', async function () {
    this.timeout(600_000 * THOROUGH);
    const sources = await Promise.all((['json', 'csv', 'xlsx'] as const).map((id) => bytesOf(design, id)));
    await fc.assert(
      fc.asyncProperty(
        fc.nat(3),
        fc.uint8Array({ maxLength: 200 }),
        fc.array(fc.tuple(fc.nat(1_000_000), fc.nat(255)), { maxLength: 6 }),
        fc.nat(1000),
        async (which, any, places, cut) => {
          const source = sources[which];
          const bytes = source
            ? Uint8Array.from(source.subarray(0, cut < 100 ? (source.length * cut) / 100 : undefined))
            : any;
          for (const [at, byte] of places) if (bytes.length) bytes[at % bytes.length] = byte;
          const said = await fault(async () => {
            for (const one of filesIn(bytes, 'x')) await designOfFile(one.bytes, one.name, OTHER);
          });
          expect(said.split('\n').length).to.equal(1);
        },
      ),
      { numRuns: 500 * THOROUGH },
    );
  });
});

describe('a backup', () => {
  const stored = (document: unknown, version: number) =>
    strToU8(JSON.stringify({ document, version, savedAt: '2026-01-01T00:00:00.000Z' }));
  const earlier = { ...design, title: 'As it was' };
  const backup = (over: Record<string, Uint8Array> = {}, isSummed = true): Uint8Array => {
    const files: Record<string, Uint8Array> = {
      [`designs/${ID}.json`]: stored(design, 5),
      [`designs/${ID}/2.json`]: stored(earlier, 2),
      [MANIFEST]: strToU8(
        JSON.stringify({
          program: 'Cordelina',
          format: 1,
          at: '2026-01-01T00:00:00.000Z',
          documents: [
            {
              of: 'design',
              id: ID,
              title: design.title,
              version: 5,
              savedAt: '2026-01-01T00:00:00.000Z',
              file: `designs/${ID}.json`,
              named: [
                {
                  version: 2,
                  name: 'first',
                  savedAt: '2026-01-01T00:00:00.000Z',
                  file: `designs/${ID}/2.json`,
                },
              ],
            },
          ],
          left: [],
        }),
      ),
    };
    const sums = new Map(Object.entries(files).map(([name, bytes]) => [name, sumOf(bytes)]));
    const now = isSummed ? { ...files, ...over, [SUMS]: strToU8(sumsText(sums)) } : { ...files, ...over };
    return zipSync(now);
  };
  /** A workroom in memory, and what was done to it. */
  const workroom = (there: Map<string, { version: number; document: unknown }> = new Map()) => {
    const did: string[] = [];
    const keeping: Keeping = {
      head: (_of, id) => Promise.resolve(there.get(id) ?? null),
      make: (_of, document) => {
        const { id, title } = document as Design;
        did.push(`make ${title}`);
        there.set(id, { version: 1, document });
        return Promise.resolve(true);
      },
      putBack: () => Promise.resolve(),
      replace: (_of, id, base, document) => {
        did.push(`replace ${base} by ${(document as Design).title}`);
        there.set(id, { version: base + 1, document });
        return Promise.resolve(base + 1);
      },
      name: (_of, _id, version, name) => Promise.resolve(void did.push(`name ${version} ${name}`)),
      photo: () => Promise.resolve(),
    };
    return { keeping, did, there };
  };

  it('of what is not there comes back with its named states', async () => {
    const archive = Archive.open(backup());
    const { keeping, did, there } = workroom();
    const plan = await restorePlanOf(archive, keeping);
    expect(plan.map(({ is }) => is)).to.deep.equal(['new']);
    expect(await restored(archive, plan, 'new', keeping, () => OTHER)).to.deep.include({
      made: 1,
      copied: 0,
      changed: 0,
    });
    expect(did).to.deep.equal(['make As it was', 'name 1 first', `replace 1 by ${design.title}`]);
    expect((await restorePlanOf(archive, keeping)).map(({ is }) => is)).to.deep.equal(['same']);
    expect(sameValue(there.get(ID)!.document, readDesign(JSON.parse(JSON.stringify(design))))).to.equal(true);
  });

  it('of what differs does what was chosen, and nothing else', async () => {
    const archive = Archive.open(backup());
    for (const [take, says] of [
      ['new', []],
      ['beside', [`make ${design.title} (backup of 2026-01-01)`]],
      ['all', [`replace 7 by ${design.title}`]],
    ] as const) {
      const { keeping, did } = workroom(
        new Map([[ID, { version: 7, document: { ...design, title: 'Newer' } }]]),
      );
      const plan = await restorePlanOf(archive, keeping);
      expect(plan[0]!.is).to.equal('differs');
      await restored(archive, plan, take, keeping, () => OTHER);
      expect(did, take).to.deep.equal(says);
    }
  });

  it('that is spoiled, cut, unsummed or of a newer program is not opened', async () => {
    const spoiled = stored({ ...design, title: 'Forged' }, 5);
    expect(await fault(() => Archive.open(backup({ [`designs/${ID}.json`]: spoiled })))).to.match(
      /spoiled: "designs/,
    );
    expect(await fault(() => Archive.open(backup({}, false)))).to.match(/no backup/);
    expect(await fault(() => Archive.open(backup().subarray(0, 300)))).to.match(/middle|spoiled/);
    expect(await fault(() => filesIn(backup(), 'x'))).to.match(/open it under Backup/);
  });
});
