import { GRAM_STEPS, yarnTold } from '../piece/yarn.js';
import type { Lie, MeasuredCloth, Piece } from '../chart/piece-document.js';
import type { Design } from '../chart/schema.js';
import { RIGHT_TO } from '../fabric/resting.js';
import { schematicOf } from '../drawing/schematic.js';
import { countOver, OVER } from '../measures/gauge.js';
import { lengthText, YARD } from '../measures/length.js';
import { needleText } from '../measures/trade.js';
import { sizesText } from '../piece/in-sizes.js';
import { layOut, type Laid } from '../piece/lay-out.js';
import { cordText, measuresText, type PieceWords } from '../piece/words.js';
import { wayOf } from '../construction/index.js';
import { isCrossing } from '../stitches/book.js';
import { stitchesText, type Manner } from '../words/manner.js';
import type { SheetBlock } from './sheet.js';
import type { WrittenDesign } from './write-design.js';

/** The piece on the printed sheet: sizes, measures, materials, its schematic, and its words. */

const heading = (text: string, level: 2 | 3): SheetBlock => ({ type: 'heading', text, level });
const text = (said: string): SheetBlock => ({ type: 'text', text: said, tone: 'plain' });

/** "20 sts and 27 rows = 10 cm in stocking stitch, washed": all that a piece was set out by, each once. */
function gaugeLines(piece: Piece, laid: Laid, unit: 'cm' | 'in', manner: Manner): string[] {
  const over = unit === 'cm' ? '10 cm' : '4 in';
  const word = manner.terms === 'UK' ? 'Tension' : 'Gauge';
  const count = (g: Lie['stitches']) => Number(countOver(g, OVER[unit]).toFixed(1));
  // Only a swatch was washed; what was typed may have been measured anyhow.
  const told = ({ stitches, swatch, rows }: Lie & { rows?: MeasuredCloth['rows'] }, what: string) =>
    `${word}: ${stitchesText(count(stitches), manner)}${rows ? ` and ${count(rows)} rows` : ''} = ${over} ${what}${swatch ? ', washed' : ''}.`;
  const { plain, whole } = piece.gauge;
  if (whole) return [told(whole, 'over the piece')];
  const panels = laid.parts.flatMap(({ part, name, gaugeFrom }) =>
    gaugeFrom === 'own' && 'gauge' in part && part.gauge ? [{ lie: part.gauge, name }] : [],
  );
  const texts = [...new Set(panels.map(({ lie }) => told(lie, '#')))];
  const of = (text: string) =>
    [...new Set(panels.filter(({ lie }) => told(lie, '#') === text).map(({ name }) => name))].join(', ');
  return [
    ...(plain ? [told(plain, 'in stocking stitch')] : []),
    ...texts.map((text) => text.replace('#', `over ${of(text).replace(/, (?!.*, )/, ' and ')}`)),
  ];
}

/** What is wanted besides yarn, counted from what the words use. */
function toolsLine(
  piece: Piece,
  words: PieceWords,
  written: Pick<WrittenDesign, 'key'>,
  { terms }: Manner,
): string[] {
  const { needle } = piece;
  const gauge = terms === 'UK' ? 'tension' : 'gauge';
  const held = written.key.flatMap(({ stitch, sides }) =>
    stitch && isCrossing(stitch) && sides.some(({ steps }) => steps.includes('cable needle')) ? [stitch] : [],
  );
  const cable = held.some((c) => c.centre.length)
    ? ['two cable needles']
    : held.length
      ? ['a cable needle']
      : [];
  const markers = words.markers + (wayOf(piece).hasEdges ? 0 : 1);
  const others = [...cable, ...(markers ? [markers === 1 ? 'a marker' : `${markers} markers`] : [])];
  const first =
    needle === null
      ? ''
      : `${needleText(needle)}, or the one that gives this ${gauge}${others.length ? '; ' : ''}`;
  return first || others.length
    ? [`Needle${needle === null ? 's and tools' : ''}: ${first}${others.join(', ')}.`]
    : [];
}

/** So many grams, and how long that is where the yarn's run is known. */
function yarnText(
  grams: readonly number[],
  to: number,
  { metres }: Piece['yarn'],
  unit: 'cm' | 'in',
): string {
  const weight = `${sizesText(grams.map((g) => yarnTold(g, to)))} g`;
  if (metres === null) return weight;
  const length = grams.map((g) => yarnTold(((g / 100) * metres) / (unit === 'cm' ? 1 : YARD), to));
  return `${weight}, ${sizesText(length)} ${unit === 'cm' ? 'm' : 'yds'}`;
}

function yarnLine(piece: Piece, { sizes }: PieceWords, unit: 'cm' | 'in'): string[] {
  const { yarn } = piece;
  const grams = sizes.flatMap((s) => s.grams ?? []);
  if (grams.length < sizes.length) return [];
  const order =
    yarn.pieces > 1
      ? ` For ${yarn.pieces} pieces of each size: ${yarnText(
          grams.map((g) => g * yarn.pieces),
          GRAM_STEPS.order,
          yarn,
          unit,
        )}.`
      : '';
  const each = wayOf(piece).loops === 2 ? ', half of it in each of A and B' : '';
  return [
    `Yarn: about ${yarnText(grams, GRAM_STEPS.piece, yarn, unit)}${each}, from the weight of a swatch and ${Math.round(yarn.margin * 100)} % more.${order} No promise: knitters and yarns differ.`,
  ];
}

/** What the finished measures rest on, where that is not a swatch, and what they leave out. */
function measuredHow({ parts, isEstimate }: Laid): string[] {
  const seamed = parts.flatMap(({ part }) => (part.kind === 'selvage' && part.seamed ? [part.stitches] : []));
  const total = seamed.reduce((sum, n) => sum + n, 0);
  return [
    ...(total
      ? [
          `${total} edge ${total === 1 ? 'stitch goes' : 'stitches go'} into seams and ${total === 1 ? 'is' : 'are'} not in the width.`,
        ]
      : []),
    ...(isEstimate
      ? [
          `The width is worked out where nothing was swatched, right to about ${Math.round(RIGHT_TO * 100)} %: measure a swatch before casting on.`,
        ]
      : []),
  ];
}

/** A piece as blocks of the sheet. */
export function pieceBlocks(
  design: Design,
  piece: Piece,
  words: PieceWords,
  written: Pick<WrittenDesign, 'key'>,
  manner: Manner,
): SheetBlock[] {
  const { units } = design.settings;
  const many = piece.sizes.length > 1;
  const sizes = many ? [text(`Sizes: ${sizesText(piece.sizes.map((s) => s.name))}.`)] : [];
  const fit = piece.sizes.every((s) => s.measure !== null)
    ? [
        text(
          `To fit${piece.fits ? ` ${piece.fits}` : ''}: ${sizesText(piece.sizes.map((s) => lengthText(s.measure!, units).replace(` ${units}`, '')))} ${units}.`,
        ),
      ]
    : [];
  const measures = measuresText(words, piece, units).map((m) => `${m}.`);
  const laid = layOut(design, piece, piece.sizes[0]!);
  const picture = schematicOf(piece, words, laid, units);
  return [
    heading(piece.name || 'The piece', 2),
    ...sizes,
    ...fit,
    ...(measures.length
      ? [text([`Finished measures: ${measures.join(' ')}`, ...measuredHow(laid)].join(' '))]
      : []),
    ...cordText(piece, words, units).map((cord) => text(`${cord}.`)),
    ...gaugeLines(piece, laid, units, manner).map(text),
    ...toolsLine(piece, words, written, manner).map(text),
    ...yarnLine(piece, words, units).map(text),
    ...(picture
      ? [
          {
            type: 'schematic' as const,
            picture,
            label: `Schematic of ${piece.name ? `${design.title}, ${piece.name}` : design.title}`,
          },
        ]
      : []),
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
