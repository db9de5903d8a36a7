import type { Border, Piece } from '../chart/piece-document.js';
import type { Chart } from '../chart/schema.js';
import { errorsIn } from '../checks/index.js';
import { within } from '../chart/repeat-lines.js';
import { rowWord, sideOf, takesTurns, wayOf } from '../construction/index.js';
import { lengthText } from '../measures/length.js';
import type { Stitch } from '../stitches/book.js';
import { stitchId } from '../stitches/book.js';
import { bandLines, bandText, bandWords, markersOfBands } from '../words/bands.js';
import type { KeyPart, Used } from '../words/key.js';
import { mannerOf, sideText, stitchesText, type Manner } from '../words/manner.js';
import { isBandLine, linesInOrder } from '../words/pattern.js';
import type { ProvedRows } from '../words/proof/prove-key.js';
import { proveRowsText, type Besides, type ReadRows } from '../words/proof/prove.js';
import type { Problem } from '../words/reader/pattern-lines.js';
import { WordsError } from '../words/reader/language.js';
import { WordProblem, type Lexicon } from '../words/reader/lexicon.js';
import { RowProblem } from '../words/reader/at-work.js';
import {
  bindOffText,
  castOnText,
  patternText,
  planText,
  printedLines,
  rowBodyText,
  rowHeadText,
} from '../words/render.js';
import { dictionOf } from '../words/vocabulary.js';
import { writeRows, type Stands, type WordSettings, type WrittenRows } from '../words/write.js';
import { assemble, type Assembled, type SizeMade } from './assemble.js';
import { inSizes, linesInSizes, sizesText } from './in-sizes.js';
import { checkPiece } from './findings.js';
import type { LaidFrom } from './lay-out.js';
import { isToldApart, merged, ofOneSize, type OwnLine, type PieceLine } from './lines-of-sizes.js';
import { borderHeading, borderRows, isJoinedBelow, type End } from './border.js';
import { PieceFault } from './fault.js';
import { PieceMisread, proveAssembled, provePanelRows, type Proved } from './proof.js';
import { bodyLinesOf, rowParts, tellingOf } from './told-rows.js';
import { metOtherwise } from './met-otherwise.js';
import { evenlyText, leftBefore } from './plain-change.js';
import { chartsPrinted, type NamedChart } from './standing.js';
import { panelRowAt } from './up.js';
import { gramsFor } from './yarn.js';

/** A piece in words: cast-on, borders, the row that places the markers, its rows panel by panel or whole, in all its sizes. */

export interface PieceSection {
  heading: string;
  /** Said above the rows, and below them. */
  before: string[];
  rows: PieceLine[];
  after: string[];
}

export interface PieceWords {
  sections: PieceSection[];
  /** Cast-on and measures of each size, in their order. */
  sizes: {
    id: string;
    name: string;
    castOn: number;
    stitches: number;
    width: number | null;
    length: number | null;
    rows: number;
    /** Grams of yarn for one piece; null without a weighed swatch. */
    grams: number | null;
  }[];
  /** Markers that its rows place, and one of its bands. */
  markers: number;
  /** Whether every row, in every size, was read back, worked on its needle, and found to be the piece's, and nothing is wrong with it. */
  checked: boolean;
  problems: string[];
}

/** A piece written, and what its words need besides: of the charts, of the key, and their proof. */
export interface WrittenPiece extends Omit<PieceWords, 'checked' | 'problems'> {
  printed: NamedChart[];
  stands: (Stands | undefined)[];
  parts: KeyPart[];
  prove: Besides['prove'];
}

/** Some rows of an assembled piece as a chart by themselves. */
function rowsAlone({ chart }: Assembled, from: number, to: number): Chart {
  const firstRow = sideOf(chart, from);
  return {
    ...chart,
    rows: chart.rows.slice(from, to),
    bands: within(chart.bands, from, to),
    up: null,
    firstRow,
  };
}

/** The rows of a border, and the one that leads to or from it, as they are written. */
interface WrittenBorder {
  chart: Chart;
  written: WrittenRows;
  /** The place of the row of changes among them; -1 without one. */
  change: number;
  lines: OwnLine[];
}

function writeBorder({ made }: SizeMade, end: End, settings: WordSettings, manner: Manner): WrittenBorder {
  const { chart: whole, below, above, increases, decreases } = made;
  const height = whole.rows.length;
  const chart = end === 'bottom' ? rowsAlone(made, 0, below) : rowsAlone(made, height - above, height);
  const change = end === 'bottom' ? (increases ? chart.rows.length - 1 : -1) : decreases ? 0 : -1;
  const written = writeRows(chart, bordersOwn(settings));
  const name = `${end === 'bottom' ? 'Increase' : 'Decrease'} ${rowWord(chart).toLowerCase()}`;
  const lines = linesInOrder(written.pattern).flatMap((line): OwnLine[] => {
    if (isBandLine(line)) return bandText(line, manner);
    const isChange = line.numbers.length === 1 && line.numbers[0] === change + 1 && !line.rest;
    // The row of changes stands under a name of its own.
    const side = takesTurns(wayOf(chart)) ? ` (${sideText(sideOf(chart, change), manner)})` : '';
    const head = isChange ? `${name} ${change + 1}${side}` : rowHeadText(line, manner);
    return [{ head, words: rowBodyText(line, manner) }];
  });
  return { chart, written, change, lines };
}

/** Border rows are written out: what lies below or above them is another cloth. */
const bordersOwn = (settings: WordSettings): WordSettings => ({
  ...settings,
  style: { ...settings.style, wsRows: 'written', counts: 'every' },
});

/** Where each panel stands at the last row of the parts: "ending with row 4 of Chart A". */
function endingText({ made }: SizeMade): string {
  const at = made.laid.parts.flatMap(({ going, name }) => {
    const r = going && panelRowAt(going, made.body, made.body);
    return r === null ? [] : [`row ${r} of ${name}`];
  });
  return [...new Set(at)].join(', ').replace(/, (?!.*, )/, ' and ');
}

/** What is said below the rows: where panels meet again, how many rows there are, and where they end. */
function goingOnLines(piece: Piece, all: readonly SizeMade[]): string[] {
  const [{ made }] = all as [SizeMade];
  const word = rowWord(piece).toLowerCase();
  const panels = made.laid.parts.filter((p) => p.chart).length;
  const { from, every } = made.meet;
  const lines: string[] = [];
  if (panels > 1 && every !== null && all.every((one) => one.made.body >= from - 1 + every))
    lines.push(
      `After ${word} ${from - 1 + every} all panels stand as they did before ${word} ${from}: they meet again every ${every} ${word}s.`,
    );
  const rows = `Work ${sizesText(all.map((one) => one.made.body))} ${word}s in all`;
  const endings = all.map(endingText);
  const ending = inSizes(endings);
  if (panels && ending) lines.push(`${rows}, ending with ${ending}.`);
  else
    lines.push(
      `${rows}.`,
      ...(panels ? all.map((one, i) => `${one.size.name} ends with ${endings[i]!}.`) : []),
    );
  return lines;
}

/** The stitches that the told rows of a piece are written with, by side. */
function usedInBody(piece: Piece, made: Assembled, settings: WordSettings): Pick<KeyPart, 'used' | 'marks'> {
  const used = { RS: new Map<string, Stitch>(), WS: new Map<string, Stitch>() } satisfies Used;
  let [places, slips] = [false, false];
  for (const { numbers, body } of bodyLinesOf(piece, made, tellingOf(made, settings))) {
    if (body.type === 'asSet') continue;
    const [row] = numbers as [number];
    const side = sideOf(piece, row - 1);
    for (const part of rowParts(piece, made, row)) {
      if (part.kind === 'stitches') for (const s of part.stitches) used[side].set(stitchId(s), s);
      if (part.kind === 'mark') [places, slips] = [places || row === 1, slips || row > 1];
    }
  }
  const bands = bandWords(bandLines(rowsAlone(made, made.below, made.below + 1)));
  return {
    used,
    marks: [...(places ? ['pm' as const] : []), ...(slips ? ['sm' as const] : []), ...bands],
  };
}

/** What a section tells in each size, to be told for all of them. */
interface Told {
  bySize: OwnLine[][];
  rows: PieceLine[];
}

function toldIn(bySize: OwnLine[][], names: readonly string[]): Told {
  return { bySize, rows: merged(bySize, names) };
}

type Problems = Problem[];

const tellTo = (problems: Problems) => (message: string) =>
  problems.push({ id: 'piece', level: 'error', message: `The piece: ${message}` });

/** Proves a text of rows by its chart, and takes in what is wrong. */
function takeProof(
  { chart, written }: Pick<WrittenBorder, 'chart' | 'written'>,
  defined: Lexicon['defined'],
  settings: WordSettings,
  name: string,
  tell: (message: string) => void,
): ProvedRows {
  const text = patternText(written.pattern, mannerOf(settings.style));
  const { rows, problems } = proveRowsText(text, chart, defined, settings);
  for (const p of problems) tell(`${name}: ${p.message}`);
  return rows;
}

/** How a hem is folded and held down; where it is bound off together, that is told when it comes off the needle. */
function hemText(all: readonly SizeMade[], border: Border, end: End, piece: Piece): string[] {
  const row = rowWord(piece).toLowerCase();
  // Above, the row that leads to the hem stands before its rows.
  const fold = sizesText(all.map(({ made }) => border.rows + 1 + (end === 'top' && made.decreases ? 1 : 0)));
  if (border.join === 'sewn') return [`Fold at ${row} ${fold} and sew the hem down inside.`];
  if (!isJoinedBelow(border, end)) return [];
  return [
    `Fold at ${row} ${fold}. In ${row} ${borderRows(border, end)} knit each stitch together with its loop of the cast-on, which lies behind it.`,
  ];
}

/** How a piece comes off the needle. */
function bindOffSection(piece: Piece, all: readonly SizeMade[], manner: Manner): PieceSection {
  const counts = sizesText(all.map(({ made }) => leftBefore(made, 0)));
  const sts = stitchesText(0, manner).replace('0', counts);
  const { top } = piece.border;
  const row = rowWord(piece).toLowerCase();
  const begins = sizesText(all.map(({ made }) => 1 + (made.decreases ? 1 : 0)));
  const fold = sizesText(all.map(({ made }) => (top?.rows ?? 0) + 1 + (made.decreases ? 1 : 0)));
  return {
    heading: manner.terms === 'UK' ? 'Cast off' : 'Bind off',
    before:
      top?.kind === 'hem' && top.join === 'joined'
        ? [
            `Fold inwards at ${row} ${fold}. On a second needle pick up a loop behind each stitch of ${row} ${begins} of it: ${counts} loops.`,
            `${bindOffText(sts, ', each together with one of these loops', manner)}.`,
          ]
        : [`${bindOffText(sts, top ? ' in pattern' : ' as they present', manner)}.`],
    rows: [],
    after: [],
  };
}

/** The rows of a whole piece, each told from edge to edge. */
function wholeRows(
  all: readonly SizeMade[],
  settings: WordSettings,
  manner: Manner,
  names: readonly string[],
) {
  const written = all.map(({ made }) => ({ chart: made.chart, written: writeRows(made.chart, settings) }));
  const told = toldIn(
    written.map(({ written: { pattern } }) => printedLines(pattern, manner)),
    names,
  );
  const plans = written.map(
    ({ written: { pattern } }) => `${planText(pattern.plan!, pattern.rows[0]?.kind ?? 'row')}.`,
  );
  const after = linesInSizes(plans, names).map(({ text, sizes }) =>
    sizes ? `${sizes.join(', ')}: ${text}` : text,
  );
  const heading = `${all.length > 1 ? 'All sizes, e' : 'E'}very ${rowWord(all[0]!.made.chart).toLowerCase()}`;
  const section: PieceSection = { heading, before: [], rows: told.rows, after };
  return { written, told, section };
}

/**
 * A piece in words, in all its sizes, with what their proof will need: it is proved together with the charts and the one key.
 *
 * @throws PieceFault where a size cannot be put together
 */
export function writePieceRows(design: LaidFrom, piece: Piece, settings: WordSettings): WrittenPiece {
  const manner = mannerOf(settings.style);
  const all = piece.sizes.map((size): SizeMade => ({ size, made: assemble(design, piece, size) }));
  const names = all.map(({ size }) => size.name);
  const printed = chartsPrinted(design.charts, piece);
  const twice = printed.find(({ name }, i) => printed.findIndex((o) => o.name === name) < i);
  if (twice)
    throw new PieceFault(
      `Two charts are called "${twice.name}": give one another name, so that its rows can be told by it.`,
    );
  const works = new Set(all[0]!.made.laid.parts.flatMap(({ chart }) => (chart ? [chart.id] : [])));
  const isByRows = piece.words === 'rows';
  const met = isByRows ? null : metOtherwise(all.map(({ made }) => made));
  const stands = printed.map(({ chart }): Stands | undefined =>
    works.has(chart.id) ? { isPanel: true, mustWrite: met?.get(chart.id) ?? new Set() } : undefined,
  );
  const faults = checkPiece(design, piece, 'cm').filter(({ level }) => level === 'error');

  const whole = isByRows ? wholeRows(all, settings, manner, names) : null;
  const borders = isByRows
    ? []
    : (['bottom', 'top'] as const)
        .filter((end) => piece.border[end])
        .map((end) => {
          const written = all.map((one) => writeBorder(one, end, settings, manner));
          return {
            end,
            written,
            told: toldIn(
              written.map((w) => w.lines),
              names,
            ),
          };
        });
  const body = isByRows
    ? null
    : toldIn(
        all.map(({ made }) =>
          printedLines(
            {
              rows: bodyLinesOf(piece, made, tellingOf(made, settings)),
              bands: bandLines(rowsAlone(made, made.below, made.below + 1)),
            },
            manner,
          ),
        ),
        names,
      );

  const borderSection = (end: End): PieceSection[] => {
    const of = borders.find((b) => b.end === end);
    if (!of) return [];
    const border = piece.border[end]!;
    const fold = border.kind === 'hem' ? hemText(all, border, end, piece) : [];
    const heading = borderHeading(border, end);
    const plans = of.written.map(({ written: { pattern } }) => planText(pattern.plan!, wayOf(piece).row));
    const rows = linesInSizes(plans, names).map(({ text, sizes }) =>
      sizes ? `${sizes.join(', ')}: ${text}.` : `${text}.`,
    );
    const after = [...rows, ...fold, ...evenlyText(all, end, piece, manner)];
    return [{ heading, before: [], rows: of.told.rows, after }];
  };
  const sections: PieceSection[] = whole
    ? [whole.section]
    : [
        ...borderSection('bottom'),
        { heading: `${rowWord(piece)}s`, before: [], rows: body!.rows, after: goingOnLines(piece, all) },
        ...borderSection('top'),
      ];

  const parts: KeyPart[] = [
    ...(whole ? whole.written.map(({ written }) => written.part) : []),
    ...borders.flatMap(({ written }) => written.map((w) => w.written.part)),
    ...(isByRows
      ? []
      : all.map(({ made }) => ({
          chart: made.chart,
          diction: dictionOf(made.chart, settings),
          ...usedInBody(piece, made, settings),
        }))),
  ];

  const prove: Besides['prove'] = (charts, defined) => {
    const problems: Problems = [];
    const tell = tellTo(problems);
    for (const { message } of faults) tell(message);
    const rows: ProvedRows[] = [];
    const proved = (i: number): Proved => ({ charts: design.charts, piece, ...all[i]! });
    const told = [...(whole ? [whole.told] : []), ...borders.map((b) => b.told), ...(body ? [body] : [])];
    if (told.some((t) => !isToldApart(t.rows, t.bySize, names)))
      tell('The sizes could not be told apart again.');
    if (whole) whole.written.forEach((w, i) => rows.push(takeProof(w, defined, settings, names[i]!, tell)));
    for (const { written } of borders)
      written.forEach((w, i) => rows.push(takeProof(w, defined, bordersOwn(settings), names[i]!, tell)));
    if (body) {
      const named = printed.map(({ name }, i) => ({ name, read: charts[i]! as ReadRows }));
      all.forEach((_, i) => {
        try {
          rows.push(provePanelRows(proved(i), ofOneSize(body.rows, i, names), named, settings.hand));
        } catch (error) {
          if (![PieceMisread, RowProblem, WordProblem, WordsError].some((kind) => error instanceof kind))
            throw error;
          tell(`${names[i]!}: ${(error as Error).message}`);
        }
      });
    }
    // The whole of it, borders and all, must be what its parts make, and come out on its needle too.
    all.forEach(({ made, size }, i) => {
      try {
        proveAssembled(proved(i));
      } catch (error) {
        if (!(error instanceof PieceMisread)) throw error;
        tell(`${size.name}: ${error.message}`);
      }
      const [fault] = errorsIn(made.chart);
      if (fault) tell(`${size.name}: ${fault.message}`);
    });
    return { rows, problems };
  };

  const castOn = castOnText({ stitches: 0, repeats: null }, manner).replace(
    '0',
    sizesText(all.map(({ made }) => made.castOn)),
  );
  const markers = Math.max(
    ...all.map(({ made }) => rowParts(piece, made, 1).filter(({ kind }) => kind === 'mark').length),
  );
  const bandMarkers = Math.max(...all.map(({ made }) => markersOfBands(made.chart)));
  return {
    printed,
    stands,
    parts,
    prove,
    markers: markers + bandMarkers,
    sections: [
      {
        heading: 'Cast-on',
        before: [
          `${castOn}.`,
          ...(piece.border.bottom && isJoinedBelow(piece.border.bottom, 'bottom')
            ? ['Cast them on provisionally: the hem takes their loops up again.']
            : []),
          ...(!wayOf(piece).hasEdges ? ['Join for the round, and place a marker where it begins.'] : []),
        ],
        rows: [],
        after: [],
      },
      ...sections,
      bindOffSection(piece, all, manner),
    ],
    sizes: all.map(({ size, made }) => ({
      id: size.id,
      name: size.name,
      castOn: made.castOn,
      stitches: made.laid.stitches,
      width: made.laid.width,
      length: made.length,
      rows: made.below + made.body + made.above,
      grams: gramsFor(piece, made),
    })),
  };
}

/** Stitches of a knitted cord, and what of it is left over to tie (custom), in micrometres. */
const [CORD, TO_TIE] = [4, 300_000];

/** The cords that the eyelets of a piece's borders ask for, in a unit: each goes round once, and has ends to tie. */
export function cordText(
  { border }: Piece,
  { sizes }: Pick<PieceWords, 'sizes'>,
  unit: 'cm' | 'in',
): string[] {
  const cords = [border.bottom, border.top].filter((b) => b?.kind === 'hem' && b.cord).length;
  if (!cords) return [];
  const ends = lengthText(TO_TIE, unit);
  const width = sizes.map((s) => s.width);
  const long = width.every((w) => w !== null)
    ? `${sizesText(width.map((w) => lengthText(w + TO_TIE, unit).replace(` ${unit}`, '')))} ${unit} long, ${ends} of it to tie`
    : `as long as the piece is wide, and ${ends} to tie`;
  return [`${cords > 1 ? `${cords} cords` : 'Cord'} of ${CORD} stitches, ${long}`];
}

/** What is measured across a piece: its width; round one that is worked round, what is round it. */
export const acrossName = (piece: Piece): 'Width' | 'Circumference' =>
  wayOf(piece).hasEdges ? 'Width' : 'Circumference';

/** Finished measures of a piece in all its sizes, in a unit: "Width 48 (52, 56) cm". */
export function measuresText(
  { sizes }: Pick<PieceWords, 'sizes'>,
  piece: Piece,
  unit: 'cm' | 'in',
): string[] {
  const line = (what: string, of: 'width' | 'length') => {
    if (sizes.some((s) => s[of] === null)) return [];
    const texts = sizes.map((s) => lengthText(s[of]!, unit).replace(` ${unit}`, ''));
    return [`${what} ${sizesText(texts)} ${unit}`];
  };
  return [...line(acrossName(piece), 'width'), ...line('Length', 'length')];
}
