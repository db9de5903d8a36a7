import type { Border, Piece, Size } from '../chart/piece-document.js';
import { insertRows, setUp } from '../chart/edits.js';
import { repeatRows, upOf } from '../chart/frame.js';
import { bookOf, type Chart } from '../chart/schema.js';
import { setStep, type Step } from '../chart/steps.js';
import { EditError, andThen } from '../chart/edit.js';
import { everyFor } from '../chart/band-edits.js';
import type { Finding } from '../checks/finding.js';
import { errorsIn } from '../checks/index.js';
import { sideOf, takesTurns, wayOf } from '../construction/index.js';
import { lengthText, type Length, type LengthUnit } from '../measures/length.js';
import { assemble, type Assembled } from './assemble.js';
import { facesWanted } from './part-cells.js';
import { borderComesOut } from './border.js';
import { RIGHT_TO } from '../fabric/resting.js';
import { layOut, type LaidFrom } from './lay-out.js';
import { changePart, pieceSteps } from './edits.js';
import { isChartPart } from './standing.js';
import { PieceFault } from './fault.js';
import { sideClash } from './up.js';

/** What a piece has wrong with it, and what would mend it. */

/** A width this much off what was asked for is told (custom). */
const FAR: Length = 10_000;

/** A chart with a set-up row below its first, which presents what that one wants to find. */
function withSetUpRow(chart: Chart): readonly Step[] | null {
  try {
    const row = facesWanted(chart.rows[0]!, bookOf(chart));
    const put = insertRows(chart, 0, [row]);
    const up = upOf(put.chart);
    // It is worked once: the repeat begins above it, whether there was one or not.
    const isIn = repeatRows(put.chart)?.first === 0 || !repeatRows(put.chart);
    const { steps } = isIn ? andThen(put, (c) => setUp(c, { ...up, setup: up.setup + 1 })) : put;
    // The row that was the first is worked on the side it was: the one below it on the other.
    return [...steps, setStep(['charts', chart.id, 'firstRow'], chart.firstRow, sideOf(chart, 1))];
  } catch (error) {
    if (error instanceof EditError || error instanceof PieceFault) return null;
    throw error;
  }
}

function sideFindings(design: LaidFrom, piece: Piece): Finding[] {
  if (!takesTurns(wayOf(piece))) return [];
  const { parts } = layOut(design, piece, piece.sizes[0]!);
  return parts.flatMap(({ part, going, name }): Finding[] => {
    if (!going || !isChartPart(part)) return [];
    const clash = sideClash(going, piece.firstRow, wayOf(piece));
    if (!clash) return [];
    if (clash === 'odd')
      return [
        {
          id: 'panel-odd-rows',
          level: 'error',
          part: part.id,
          message: `${name} repeats an odd number of rows: on its second pass right-side rows fall on wrong-side rows.`,
        },
      ];
    const later = changePart(piece, part.id, { starts: part.starts + 1 });
    const original = design.charts.find((c) => c.id === part.chart)!;
    const setUpRow = withSetUpRow(original);
    return [
      {
        id: 'panel-side',
        level: 'error',
        part: part.id,
        message: `${name} begins on row ${part.starts} of the piece, which is not of the side its row ${part.begins} is charted for.`,
        fix: { label: 'Begin it one row later', steps: pieceSteps(piece, later) },
        ...(setUpRow && { others: [{ label: 'Give its chart a set-up row', steps: setUpRow }] }),
      },
    ];
  });
}

const ENDS = { bottom: 'above the border', top: 'below the upper border' } as const;

/** What the bands of the borders have wrong with them, by the checks of charts; with another distance that would do, as a mend. */
function bandFindings(piece: Piece, { chart, below }: Assembled): Finding[] {
  const found = errorsIn(chart).filter(({ id }) => id.startsWith('band-'));
  return found.map(({ id, level, row = 1, message }): Finding => {
    const end = row - 1 === below ? 'bottom' : 'top';
    const border = piece.border[end];
    const told = message.replace(/^The band before (?:round|row) \d+/, `The band ${ENDS[end]}`);
    const [every] = border?.band ? everyFor(chart, row - 1, border.band.every) : [];
    if (!border?.band) return { id, level, message: told };
    const now = (band: Border['band']) =>
      pieceSteps(piece, { ...piece, border: { ...piece.border, [end]: { ...border, band } } });
    const out = { label: 'Take the band out', steps: now(null) };
    if (id !== 'band-divides' || every === undefined) return { id, level, message: told, fix: out };
    const fix = { label: `Cross every ${every} stitches`, steps: now({ ...border.band, every }) };
    return { id, level, message: told, fix, others: [out] };
  });
}

/** What is found in one size, and the piece as it is put together in it; null where it cannot be. */
interface InSize {
  size: Size;
  found: Finding[];
  made: Assembled | null;
}

function inOneSize(design: LaidFrom, piece: Piece, size: Size, unit: LengthUnit): InSize {
  const found: Finding[] = [];
  let made: Assembled | null = null;
  const tell = (id: string, level: Finding['level'], message: string, part?: string) =>
    found.push({ id, level, message, size: size.id, ...(part !== undefined && { part }) });
  const many = piece.sizes.length > 1 ? `${size.name}: ` : '';
  try {
    made = assemble(design, piece, size);
    const { width, wanted } = made.laid;
    if (width !== null && wanted !== null && Math.abs(width - wanted) > FAR)
      tell(
        'width-off',
        'caution',
        `${many}${lengthText(width, unit)} wide, ${lengthText(Math.abs(width - wanted), unit)} ${width > wanted ? 'more' : 'less'} than wished for.`,
      );
    for (const end of made.spread)
      tell(
        'changes-spread',
        'note',
        `${many}the changes of the ${end === 'bottom' ? 'increase' : 'decrease'} row cannot all be placed where the panels want them, so they are spread evenly over the row.`,
      );
    for (const end of ['bottom', 'top'] as const) {
      const border = piece.border[end];
      const stitches = end === 'bottom' ? made.castOn : made.laid.stitches - made.decreases;
      if (border && !borderComesOut(border, stitches, wayOf(piece)))
        tell(
          'border-uneven',
          'caution',
          `${many}${stitches} stitches of the ${end === 'bottom' ? 'border' : 'upper border'} do not begin and end alike in its rib.`,
        );
    }
    found.push(...bandFindings(piece, made).map((f) => ({ ...f, message: many + f.message, size: size.id })));
    const below = made.below + made.above;
    if (size.length !== null && made.length !== null && made.length - size.length > 5 * FAR)
      tell(
        'length-off',
        'caution',
        `${many}with ${below} rows of borders and one repeat it is ${lengthText(made.length, unit)} long, more than wished for.`,
      );
  } catch (error) {
    if (!(error instanceof PieceFault)) throw error;
    tell(
      'piece-fault',
      'error',
      many && piece.sizes.length > 1 ? many + error.message : error.message,
      error.part,
    );
  }
  return { size, found, made };
}

/** What is not alike in all sizes though nobody asked for it: how many stitches come and go between borders and parts. */
function otherwiseInSizes({ border }: Piece, sizes: readonly InSize[]): Finding[] {
  const differ = (['bottom', 'top'] as const).flatMap((end) => {
    if (!border[end] || border[end].fewer !== null) return [];
    const bySize = new Map<number, string[]>();
    for (const { size, made } of sizes)
      if (made) {
        const n = end === 'bottom' ? made.increases : made.decreases;
        bySize.set(n, [...(bySize.get(n) ?? []), size.name]);
      }
    if (bySize.size < 2) return [];
    const told = [...bySize].map(([n, names]) => `${n} in ${names.join(', ')}`).join('; ');
    return [
      { does: end === 'bottom' ? 'increased above the border' : 'decreased below the upper border', told },
    ];
  });
  // What is alike at both ends is told once.
  const [low, high] = differ;
  const once = low && low.told === high?.told ? [{ ...low, does: `${low.does} and ${high.does}` }] : differ;
  return once.map(({ does, told }) => ({
    id: 'sizes-differ',
    level: 'note',
    message: `Not as many stitches are ${does} in all sizes: ${told}. So the rib comes out in each; give the border a number to have them alike.`,
  }));
}

/** Everything a designer should know of a piece as it is set out, gravest first. */
export function checkPiece(design: LaidFrom, piece: Piece, unit: LengthUnit): Finding[] {
  if (!piece.parts.length) return [];
  const { parts, isEstimate } = layOut(design, piece, piece.sizes[0]!);
  const notes: Finding[] = [];
  if (parts.some((p) => p.stitches > 0 && !p.gauge))
    notes.push({
      id: 'no-gauge',
      level: 'note',
      message: 'No gauge yet, so no width: take one from a swatch, or type it in.',
    });
  else if (isEstimate)
    notes.push({
      id: 'estimated-gauge',
      level: 'note',
      message: `Parts without a swatch of their own are as wide as their cloth is worked out to lie, right to about ${Math.round(RIGHT_TO * 100)} %: swatch them.`,
    });
  if (!(piece.gauge.whole ?? piece.gauge.plain)?.rows && piece.sizes.some((s) => s.length !== null))
    notes.push({
      id: 'no-row-gauge',
      level: 'note',
      message: 'No gauge of rows yet, so no length: count the rows of the swatch too.',
    });
  const sizes = piece.sizes.map((size) => inOneSize(design, piece, size, unit));
  const bySize = sizes.flatMap(({ found }) => found);
  // What holds for all sizes alike is told once.
  const once = bySize.filter(
    (f, i) => f.id !== 'piece-fault' || bySize.findIndex((o) => o.id === f.id && o.part === f.part) === i,
  );
  const order = { error: 0, caution: 1, note: 2 } as const;
  notes.push(...otherwiseInSizes(piece, sizes));
  return [...sideFindings(design, piece), ...once, ...notes].sort((a, b) => order[a.level] - order[b.level]);
}
