import { chartName } from '../chart/charts.js';
import type { Piece, Size } from '../chart/piece.js';
import { bookOf, type Chart, type Design } from '../chart/schema.js';
import { checkChart } from '../checks/index.js';
import { constructionOf, sideOf } from '../construction/construction.js';
import { lengthText } from '../measures/length.js';
import type { Side } from '../stitches/face.js';
import { mannerOf, sideText, stitchesText, type Manner } from '../words/manner.js';
import { WordsError } from '../words/reader/language.js';
import { WordProblem } from '../words/reader/lexicon.js';
import { RowProblem } from '../words/reader/work.js';
import { castOnText, keyLineText, planText, rowBodyText, rowHeadText } from '../words/render.js';
import type { KeyLine } from '../words/pattern.js';
import { writeAndProve } from '../words/proof/prove.js';
import type { WordSettings } from '../words/write.js';
import { borderRows } from './border.js';
import { assemble, type Assembled } from './assemble.js';
import { inSizes, linesInSizes, sizesText } from './in-sizes.js';
import { isToldApart, joinedLines, merged, type OwnLine, type PieceLine } from './piece-lines.js';
import { PieceMisread, provePanelRows } from './piece-proof.js';
import { bodyRowOf, goingOf, panelRowText, rowWord } from './piece-rows.js';
import { isChartPart } from './lay-out.js';
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
  /** Whether every row, in every size, was read back, worked on its needle, and found to be the piece's. */
  checked: boolean;
  problems: string[];
}

/** Rows told one by one, at most; further ones go on as the charts do. */
const MOST_TOLD = 96;

interface SizeMade {
  size: Size;
  made: Assembled;
}

/** Some rows of an assembled piece as a chart by themselves. */
function rowsAlone({ chart }: Assembled, from: number, to: number): Chart {
  const firstRow = sideOf(chart, from);
  return { ...chart, rows: chart.rows.slice(from, to), up: null, firstRow };
}

/** Words that charts need not tell: those of making and working together, of which a border's rows are. */
const keyLines = (key: readonly KeyLine[], manner: Manner): string[] =>
  key
    .filter(({ word, steps }) => steps.type === 'words' && !/^(k|p|sl)\b/.test(word))
    .map((line) => keyLineText(line, manner));

/** The rows of a border and the row that leads to or from it, written and proved. */
function borderLines(
  { made }: SizeMade,
  end: 'bottom' | 'top',
  settings: WordSettings,
  manner: Manner,
): { lines: OwnLine[]; key: string[]; problems: string[] } {
  const { chart, below, above, increases, decreases } = made;
  const part =
    end === 'bottom'
      ? rowsAlone(made, 0, below)
      : rowsAlone(made, chart.rows.length - above, chart.rows.length);
  const change = end === 'bottom' ? (increases ? part.rows.length : 0) : decreases ? 1 : 0;
  const word = rowWord(part);
  const header = (n: number) => {
    const side = constructionOf(part).hasEdges ? ` (${sideText(sideOf(part, n - 1), manner)})` : '';
    return n === change
      ? `${end === 'bottom' ? 'Increase' : 'Decrease'} ${word.toLowerCase()}${side}`
      : `${word} ${n}${side}`;
  };
  // The row of changes stands under a name of its own, so rows are not told as others with it.
  const apart = {
    ...settings,
    style: { ...settings.style, equal: 'apart', wsRows: 'written', counts: 'every' } as const,
  };
  const written = writeAndProve(part, apart);
  return {
    lines: written.rows.map(({ row, words, count }) => ({
      head: header(row),
      words: `${words}. (${stitchesText(count, manner)})`,
    })),
    key: keyLines(written.pattern.key, manner),
    problems: written.checked ? [] : written.problems.map((p) => p.message),
  };
}

/** The rows of the parts, panel by panel, as far as they are told one by one. */
function bodyLines(
  design: Pick<Design, 'charts'>,
  piece: Piece,
  { size, made }: SizeMade,
  told: number,
  settings: WordSettings,
  manner: Manner,
): { lines: OwnLine[]; problems: string[] } {
  const names = design.charts.map((c) => chartName(design, c));
  const hasSides = constructionOf(piece).hasEdges;
  const rows = Array.from({ length: told }, (_, i) => {
    const number = i + 1;
    const r = bodyRowOf(made, i);
    const side: Side = sideOf(made.chart, r);
    const cells = made.chart.rows[r]!;
    const book = bookOf(made.chart);
    const count = cells.reduce((sum, s) => sum + book.facts(s).makes, 0);
    return { number, side, count, words: panelRowText(piece, made, number, settings, manner) };
  });
  const problems: string[] = [];
  try {
    provePanelRows(design, piece, size, names, made, rows, settings.hand);
  } catch (error) {
    if (![PieceMisread, RowProblem, WordProblem, WordsError].some((kind) => error instanceof kind))
      throw error;
    problems.push((error as Error).message);
  }
  return {
    lines: rows.map(({ number, side, words, count }) => ({
      head: `${rowWord(piece)} ${number}${hasSides ? ` (${sideText(side, manner)})` : ''}`,
      words: `${words}. (${stitchesText(count, manner)})`,
    })),
    problems,
  };
}

/** Where each panel stands at the last row of the parts: "ending with row 4 of Chart A". */
function endingText({ made }: SizeMade): string {
  const at = made.laid.parts.flatMap((of) => {
    if (!of.chart || !isChartPart(of.part)) return [];
    const r = panelRowAt(goingOf(made, of), made.body, made.body);
    return r === null ? [] : [`row ${r} of ${of.name}`];
  });
  return [...new Set(at)].join(', ').replace(/, (?!.*, )/, ' and ');
}

/** What is said below the rows that are told: how they go on, where panels meet again, and where they end. */
function goingOnLines(piece: Piece, all: readonly SizeMade[], told: number): string[] {
  const [{ made }] = all as [SizeMade];
  const word = rowWord(piece).toLowerCase();
  const panels = made.laid.parts.filter((p) => p.chart).length;
  const { from, every } = made.meet;
  const lines: string[] = [];
  const isOver = all.some((one) => one.made.body > told);
  if (isOver && panels)
    lines.push(
      panels > 1
        ? `Go on so, each panel from the first ${word} of its repeat when its last is worked.`
        : `Go on so, from the first ${word} of its repeat when its last is worked.`,
    );
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

/** The rows of a whole piece, each told from edge to edge, written and proved. */
function wholeSections(
  all: readonly SizeMade[],
  settings: WordSettings,
  manner: Manner,
  names: readonly string[],
) {
  const problems: string[] = [];
  const written = all.map(({ made, size }) => {
    const one = writeAndProve(made.chart, settings);
    if (!one.checked) problems.push(...one.problems.map((p) => `${size.name}: ${p.message}`));
    return one;
  });
  const bySize = written.map(({ pattern }) =>
    pattern.rows.map((line) => ({ head: rowHeadText(line, manner), words: rowBodyText(line, manner) })),
  );
  const rows = merged(bySize, names);
  if (!isToldApart(rows, bySize, names)) problems.push('The sizes could not be told apart again.');
  const plans = written.map(({ pattern }) => `${planText(pattern.plan!, pattern.rows[0]?.kind ?? 'row')}.`);
  const told = linesInSizes(plans, names).map(({ text, sizes }) =>
    sizes ? `${sizes.join(', ')}: ${text}` : text,
  );
  const after = [...told, ...new Set(written.flatMap(({ pattern }) => keyLines(pattern.key, manner)))];
  return {
    sections: [{ heading: `${all.length > 1 ? 'All sizes, e' : 'E'}very row`, before: [], rows, after }],
    problems,
  };
}

/** Borders, the rows of the parts panel by panel, borders. */
function panelSections(
  design: Pick<Design, 'charts'>,
  piece: Piece,
  all: readonly SizeMade[],
  settings: WordSettings,
  manner: Manner,
  names: readonly string[],
) {
  const problems: string[] = [];
  const take = (made: { lines: OwnLine[]; problems: string[] }[]): PieceLine[] => {
    made.forEach((m, i) => problems.push(...m.problems.map((p) => `${names[i]!}: ${p}`)));
    const bySize = made.map((m) => m.lines);
    const lines = joinedLines(merged(bySize, names));
    if (!isToldApart(lines, bySize, names)) problems.push('The sizes could not be told apart again.');
    return lines;
  };
  const border = (end: 'bottom' | 'top'): PieceSection[] => {
    if (!piece.border[end]) return [];
    const made = all.map((one) => borderLines(one, end, settings, manner));
    const rows = take(made);
    const key = [...new Set(made.flatMap((m) => m.key))];
    const isHem = piece.border[end].kind === 'hem';
    const fold = isHem
      ? [
          `Fold at ${rowWord(piece).toLowerCase()} ${(borderRows(piece.border[end]) + 1) / 2} and sew the hem down inside.`,
        ]
      : [];
    return [
      {
        heading: isHem ? 'Hem' : end === 'bottom' ? 'Border' : 'Upper border',
        before: [],
        rows,
        after: [...fold, ...key],
      },
    ];
  };
  const shortest = Math.min(...all.map(({ made }) => made.body));
  const [{ made }] = all as [SizeMade];
  const pass = made.meet.every === null ? MOST_TOLD : made.meet.from - 1 + made.meet.every;
  const told = Math.min(shortest, pass, MOST_TOLD);
  const body: PieceSection = {
    heading: 'Rows',
    before: piece.markers ? ['pm: place a marker. sm: slip the marker.'] : [],
    rows: take(all.map((one) => bodyLines(design, piece, one, told, settings, manner))),
    after: goingOnLines(piece, all, told),
  };
  // The whole of it, borders and all, must come out on its needle too.
  all.forEach((one) => {
    const [fault] = checkChart(one.made.chart).filter((f) => f.level === 'error');
    if (fault) problems.push(`${one.size.name}: ${fault.message}`);
  });
  return { sections: [...border('bottom'), body, ...border('top')], problems };
}

/**
 * A piece in words, in all its sizes; every row proved on the needle of each.
 *
 * @throws PieceFault where a size cannot be put together
 */
export function writePiece(design: Pick<Design, 'charts'>, piece: Piece, settings: WordSettings): PieceWords {
  const manner = mannerOf(settings.style);
  const all = piece.sizes.map((size): SizeMade => ({ size, made: assemble(design, piece, size) }));
  const names = all.map(({ size }) => size.name);
  const { sections, problems } =
    piece.words === 'rows'
      ? wholeSections(all, settings, manner, names)
      : panelSections(design, piece, all, settings, manner, names);
  const castOn = castOnText({ stitches: 0, repeats: null }, manner).replace(
    '0',
    sizesText(all.map(({ made }) => made.castOn)),
  );
  const word = rowWord(piece).toLowerCase();
  const sizes = all.map(({ size, made }) => ({
    id: size.id,
    name: size.name,
    castOn: made.castOn,
    stitches: made.laid.stitches,
    width: made.laid.width,
    length: made.length,
    rows: made.below + made.body + made.above,
    grams: gramsFor(piece, made),
  }));
  return {
    sections: [
      {
        heading: 'Cast-on',
        before: [`${castOn}.`, ...(word === 'round' ? ['Join for the round.'] : [])],
        rows: [],
        after: [],
      },
      ...sections,
    ],
    sizes,
    checked: problems.length === 0,
    problems,
  };
}

/** Finished measures of a piece in all its sizes, in a unit: "Width 48 (52, 56) cm". */
export function measuresText({ sizes }: PieceWords, unit: 'cm' | 'in'): string[] {
  const line = (what: string, of: 'width' | 'length') => {
    if (sizes.some((s) => s[of] === null)) return [];
    const texts = sizes.map((s) => lengthText(s[of]!, unit).replace(` ${unit}`, ''));
    return [`${what} ${sizesText(texts)} ${unit}`];
  };
  return [...line('Width', 'width'), ...line('Length', 'length')];
}
