import { cornerOf } from '../chart/corner.js';
import { repeatsAcross, repeatsUp } from '../chart/frame.js';
import type { Dye } from '../chart/cloth-settings.js';
import { mirrorChart } from '../chart/edits.js';
import { seenBehind, sidesAlike } from '../chart/turn.js';
import { bothCount } from '../construction/index.js';
import type { Chart, Design, Section, SheetSettings } from '../chart/schema.js';
import { rowWord } from '../construction/index.js';
import type { Picture } from '../drawing/page.js';
import type { KeyEntry } from '../words/key.js';
import { keyWordText, mannerOf, stitchesText, type Manner } from '../words/manner.js';
import type { KeyLine } from '../words/pattern.js';
import type { NamedChart } from '../piece/standing.js';
import { columnsIn, PAGE_MARGIN, PAGES, partsOf } from './parts.js';
import { pieceBlocks } from './piece-blocks.js';
import { printedOf, type WrittenDesign } from './write-design.js';
import {
  bindOffText,
  castOnText,
  printedLines,
  constructionLines,
  keyLineText,
  planLines,
  stepsText,
} from '../words/render.js';

/** A design's printed sheet as blocks, one under the other: what the page shows, and what a PDF and a copy are made of. */
export type SheetBlock =
  | { type: 'title'; text: string; by: string }
  | { type: 'heading'; text: string; level: 2 | 3 }
  | { type: 'text'; text: string; tone: 'plain' | 'notes' | 'small' }
  | { type: 'rows'; label: string; rows: { head: string; words: string }[] }
  | { type: 'chart'; chart: Chart; label: string; caption: string | null }
  /** A drawing of the piece with its measures. */
  | { type: 'schematic'; picture: Picture; label: string }
  /** A picture of the cloth a chart makes, its repeats drawn out. */
  | { type: 'cloth'; chart: Chart; dye: Dye; label: string }
  | { type: 'words'; lines: { word: string; steps: string }[] }
  /**
   * Symbols with what they are called; and how they are worked, but where abbreviations tell it already. The same by words, for
   * copies that hold no drawings.
   */
  | {
      type: 'key';
      entries: readonly KeyEntry[];
      lines: readonly { word: string; told: string }[];
      isBrief: boolean;
    }
  /** What was proved, and of what; only where it was. */
  | { type: 'proof'; text: string }
  /** A chart at the right of its rows. */
  | { type: 'beside'; left: SheetBlock[]; right: SheetBlock[] };

/** How sections are called, on the sheet and in the list that orders them. */
export const SECTION_NAMES: Readonly<Record<Section, string>> = {
  notes: 'Notes',
  materials: 'Materials',
  construction: 'Construction',
  piece: 'The piece',
  abbreviations: 'Abbreviations',
  rows: 'Cast-on and rows',
  charts: 'Charts',
  cloth: 'Cloth',
  key: 'Key',
};

/** What is said of a swatch, in either trade. */
const swatchText = ({ terms }: Manner): string =>
  terms === 'UK'
    ? 'A count is not a width: knit a tension square in this pattern, wash and block it, and measure its tension before casting on.'
    : 'A count is not a width: swatch this pattern, wash and block it, and measure before casting on.';

const rowsWord = (chart: Chart): string => `${rowWord(chart)}s`;

function proofText({ charts, piece }: WrittenDesign): string {
  const times = ({ against }: (typeof charts)[number]) =>
    `${against.join(', ').replace(/, (\d+)$/, ' and $1')} ${against.join() === '1' ? 'repeat' : 'repeats'}`;
  const begins = piece ? 'stitches' : 'cast-on';
  const read = `Checked: ${begins}, multiple, every row with its count, how the rows follow, and the key were read back from these words`;
  const [only] = charts;
  const proved =
    charts.length === 1
      ? `${read}, worked on a needle with ${times(only!)}, and found equal to the chart, stitch by stitch.`
      : `${read}, worked on a needle, and found equal to the charts, stitch by stitch (${charts.map((c) => `“${c.name}”: ${times(c)}`).join('; ')}).`;
  return proved + (piece ? PIECE_PROVED : '');
}

const PIECE_PROVED = ' Every row of the piece was read back and worked on the needle of each size.';

/**
 * The sheet of a design and its written words, in the order the design asks for. Sections that have nothing to say
 * are left out. `isCurrent` says whether the words are those of the design as it is now: only then are they sealed.
 * `corrections` are what knitters noticed and the editor had printed.
 */
export function sheetOf(
  design: Design,
  written: WrittenDesign,
  isCurrent: boolean,
  corrections: readonly string[] = [],
): SheetBlock[] {
  const { settings, sheet } = design;
  const printed = printedOf(design, written);
  const manner = mannerOf(settings.style);
  // One by itself needs no name; in a piece its rows are told by it.
  const isNamed = printed.length > 1 || design.piece !== null;
  const isMirrored = settings.hand === 'left-same-words';

  const chartBlocks = ({ chart, name }: NamedChart, hasHeading: boolean): SheetBlock[] => [
    ...(hasHeading ? [heading(isNamed ? name : 'Chart')] : []),
    {
      type: 'chart',
      chart,
      label: `Chart of ${isNamed ? name : design.title}`,
      caption: !bothCount(chart) ? null : sidesAlike(chart) ? 'Side 1. Side 2 looks the same.' : 'Side 1',
    },
    ...(bothCount(chart) && !sidesAlike(chart)
      ? [
          {
            type: 'chart' as const,
            chart: seenBehind(chart),
            label: 'Side 2 of the cloth',
            caption: 'Side 2',
          },
        ]
      : []),
    ...(isMirrored
      ? [
          {
            type: 'chart' as const,
            chart: mirrorChart(chart),
            label: 'The cloth of a left-handed knitter',
            caption: 'Worked with the left hand by the same words, the cloth comes out as its mirror image.',
          },
        ]
      : []),
  ];

  const rowBlocks = (i: number): SheetBlock[] => {
    const of = written.charts[i]!;
    const { chart, name } = printed[i]!;
    const { pattern } = of;
    const manner = mannerOf(settings.style, pattern.head);
    const blocks: SheetBlock[] = [
      heading(isNamed ? name : rowsWord(chart)),
      ...(pattern.castOn ? [text(`${castOnText(pattern.castOn, manner)}.`)] : []),
      {
        type: 'rows',
        label: isNamed ? name : rowsWord(chart),
        rows: printedLines(pattern, manner),
      },
      ...planLines(pattern).map((line) => text(line)),
      ...offLine(of, chart, manner).map((line) => text(line)),
    ];
    if (!sheet.beside) return blocks;
    const drawn = chartBlocks(printed[i]!, false);
    return fitsBeside(chart, sheet.page)
      ? [{ type: 'beside', left: blocks, right: drawn }]
      : [...blocks, ...drawn];
  };

  const sections: Record<Section, () => SheetBlock[]> = {
    notes: () => (design.notes ? [text(design.notes, 'notes')] : []),
    materials: () => (sheet.materials ? [heading('Materials'), text(sheet.materials)] : []),
    construction: () => {
      const lines = written.charts.map(({ pattern, name }) => ({
        name,
        said: constructionLines(pattern, manner).join(' '),
      }));
      // What holds for several is told once.
      const told = [...new Set(lines.map(({ said }) => said))].filter(Boolean).map((said) => {
        const names = lines.filter((l) => l.said === said).map((l) => l.name);
        return names.length === lines.length ? said : `${names.join('; ')}: ${said}`;
      });
      const said = told.map((line) => text(line));
      // Right under the title it needs no heading.
      const isUnderTitle = sheet.order
        .slice(0, sheet.order.indexOf('construction'))
        .every((section) => section === 'notes' || !sections[section]().length);
      return said.length && !isUnderTitle ? [heading('Construction'), ...said] : said;
    },
    piece: () =>
      design.piece && written.piece ? pieceBlocks(design, design.piece, written.piece, written, manner) : [],
    abbreviations: () => {
      const lines = abbreviationsOf(written.lines, manner);
      return lines.length ? [heading('Abbreviations'), { type: 'words', lines }] : [];
    },
    rows: () => written.charts.flatMap((_, i) => rowBlocks(i)),
    charts: () =>
      sheet.beside && sheet.order.includes('rows') ? [] : printed.flatMap((of) => chartBlocks(of, true)),
    cloth: () => [
      heading('Cloth'),
      ...printed.map(({ chart, name }) => ({
        type: 'cloth' as const,
        chart: clothOf(chart),
        dye: settings.cloth,
        label: `The cloth of ${isNamed ? name : design.title}, right side`,
      })),
    ],
    key: () =>
      written.key.length
        ? [
            heading('Key'),
            {
              type: 'key',
              entries: written.key,
              lines: keyWords(written.lines, manner, sheet.order.includes('abbreviations')),
              isBrief: sheet.order.includes('abbreviations'),
            },
          ]
        : [],
  };
  return [
    { type: 'title', text: design.title, by: sheet.by },
    ...sheet.order.flatMap((section) => sections[section]()),
    ...(corrections.length ? [heading('Corrections'), ...corrections.map((line) => text(line))] : []),
    ...(isCurrent && written.checked ? [{ type: 'proof' as const, text: proofText(written) }] : []),
    text(swatchText(manner), 'small'),
  ];
}

/** How a chart whose edges are its piece's comes off the needle; a panel goes on in its piece, which tells it. */
function offLine({ rows, pattern }: WrittenDesign['charts'][number], chart: Chart, manner: Manner): string[] {
  const left = rows.at(-1)?.count ?? 0;
  if (pattern.castOn?.isPanel || chart.part === 'panel' || !left) return [];
  const way = manner.stitches === 'pairs' ? ', the two loops of each together' : ' in pattern';
  return [`${bindOffText(stitchesText(left, manner), way, manner)}.`];
}

const heading = (text: string, level: 2 | 3 = 2): SheetBlock => ({ type: 'heading', text, level });
const text = (said: string, tone: 'plain' | 'notes' | 'small' = 'plain'): SheetBlock => ({
  type: 'text',
  text: said,
  tone,
});

/** The key by its words; those that abbreviations tell are left out. */
const keyWords = (lines: readonly KeyLine[], manner: Manner, isBrief: boolean) =>
  lines
    .filter(({ steps }) => !isBrief || steps.type !== 'words')
    .map((line) => ({ word: line.word, told: keyLineText(line, manner) }));

/** The words of the rows that are no crossings, with their steps, in the order of the alphabet. */
function abbreviationsOf(lines: readonly KeyLine[], manner: Manner): { word: string; steps: string }[] {
  return lines
    .filter(({ steps }) => steps.type === 'words')
    .map(({ word, side, steps }) => ({
      word: `${keyWordText(word, manner)}${side ? ` (${side})` : ''}`,
      steps: stepsText(steps, manner),
    }))
    .sort((a, b) => a.word.localeCompare(b.word, 'en'));
}

/** The picture of a cloth shows about so many stitches and rows, of a chart that repeats several times over. */
const IN_PICTURE = { columns: 60, rows: 44 } as const;

/** A chart drawn out for the picture of its cloth, as far as that reaches. */
function clothOf(chart: Chart): Chart {
  const passes = repeatsUp(chart) ? Math.ceil(IN_PICTURE.rows / chart.rows.length) + 1 : 1;
  return cornerOf(chart, IN_PICTURE, repeatsAcross(chart) ? IN_PICTURE.columns : 1, passes);
}

/** Beside its rows a chart has not half of the page: more columns, or more rows than fit it, would be too small to read. */
export const BESIDE = 0.46;
const fitsBeside = (chart: Chart, page: SheetSettings['page']): boolean =>
  partsOf(chart, columnsIn(BESIDE * (PAGES[page].width - 2 * PAGE_MARGIN))).length === 1;
