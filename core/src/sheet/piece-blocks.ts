import type { MeasuredCloth, Piece } from '../chart/piece.js';
import type { Design } from '../chart/schema.js';
import { schematicOf } from '../drawing/schematic.js';
import { countOver, OVER } from '../measures/gauge.js';
import { lengthText } from '../measures/length.js';
import { needleText } from '../measures/trade.js';
import { sizesText } from '../sizes/in-sizes.js';
import { layOut } from '../sizes/lay-out.js';
import { measuresText, type PieceWords } from '../sizes/piece-words.js';
import type { Manner } from '../words/manner.js';
import type { SheetBlock } from './sheet.js';

/** The piece on the printed sheet: sizes, measures, materials, its schematic, and its words. */

const heading = (text: string, level: 2 | 3): SheetBlock => ({ type: 'heading', text, level });
const text = (said: string): SheetBlock => ({ type: 'text', text: said, tone: 'plain' });

/** "20 sts and 27 rows = 10 cm of plain cloth": what a piece was set out by. */
function gaugeLines(piece: Piece, unit: 'cm' | 'in', { terms }: Manner): string[] {
  const over = unit === 'cm' ? '10 cm' : '4 in';
  const told = (of: MeasuredCloth, what: string) => {
    const count = (g: MeasuredCloth['stitches']) => Number(countOver(g, OVER[unit]).toFixed(1));
    const rows = of.rows ? ` and ${count(of.rows)} rows` : '';
    return `${terms === 'UK' ? 'Tension' : 'Gauge'}: ${count(of.stitches)} sts${rows} = ${over} ${what}.`;
  };
  const { plain, whole } = piece.gauge;
  return [
    ...(whole ? [told(whole, 'over the piece')] : []),
    ...(plain ? [told(plain, 'of stocking stitch')] : []),
  ];
}

const YARD = 0.9144;

/** So many grams, and how long that is where the yarn's run is known. */
function yarnText(
  grams: readonly number[],
  to: number,
  { metres }: Piece['yarn'],
  unit: 'cm' | 'in',
): string {
  const weight = `${sizesText(grams.map((g) => Math.ceil(g / to) * to))} g`;
  if (metres === null) return weight;
  const length = grams.map((g) => Math.ceil(((g / 100) * metres) / (unit === 'cm' ? 1 : YARD) / to) * to);
  return `${weight}, ${sizesText(length)} ${unit === 'cm' ? 'm' : 'yds'}`;
}

function yarnLine({ yarn }: Piece, { sizes }: PieceWords, unit: 'cm' | 'in'): string[] {
  const grams = sizes.flatMap((s) => s.grams ?? []);
  if (grams.length < sizes.length) return [];
  const order =
    yarn.pieces > 1
      ? ` For ${yarn.pieces} pieces of each size: ${yarnText(
          grams.map((g) => g * yarn.pieces),
          50,
          yarn,
          unit,
        )}.`
      : '';
  return [
    `Yarn: about ${yarnText(grams, 5, yarn, unit)}, from the weight of a swatch and ${Math.round(yarn.margin * 100)} % more.${order} No promise: knitters and yarns differ.`,
  ];
}

/** A piece as blocks of the sheet. */
export function pieceBlocks(design: Design, piece: Piece, words: PieceWords, manner: Manner): SheetBlock[] {
  const { units } = design.settings;
  const many = piece.sizes.length > 1;
  const sizes = many ? [text(`Sizes: ${sizesText(piece.sizes.map((s) => s.name))}.`)] : [];
  const fit = piece.sizes.every((s) => s.measure !== null)
    ? [
        text(
          `To fit: ${sizesText(piece.sizes.map((s) => lengthText(s.measure!, units).replace(` ${units}`, '')))} ${units}.`,
        ),
      ]
    : [];
  const measures = measuresText(words, units).map((m) => `${m}.`);
  const laid = layOut(design, piece, piece.sizes[0]!);
  const picture = schematicOf(piece, words, laid, units);
  return [
    heading('The piece', 2),
    ...sizes,
    ...fit,
    ...(measures.length ? [text(`Finished measures: ${measures.join(' ')}`)] : []),
    ...gaugeLines(piece, units, manner).map(text),
    ...(piece.needle === null
      ? []
      : [text(`Needle: ${needleText(piece.needle)}, or the one that gives this gauge.`)]),
    ...yarnLine(piece, words, units).map(text),
    ...(picture ? [{ type: 'schematic' as const, picture, label: `Schematic of ${design.title}` }] : []),
    ...words.sections.flatMap(({ heading: head, before, rows, after }): SheetBlock[] => [
      heading(head, 3),
      ...before.map(text),
      ...(rows.length
        ? [
            {
              type: 'rows' as const,
              label: head,
              rows: rows.map((r) => ({
                head: r.sizes ? `${r.head}, ${r.sizes.join(', ')}` : r.head,
                words: r.words,
              })),
            },
          ]
        : []),
      ...after.map(text),
    ]),
  ];
}
