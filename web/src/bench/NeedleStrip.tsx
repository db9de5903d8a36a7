import {
  bookOf,
  dictionOf,
  mannerOf,
  wordsOfRow,
  castOnNeedle,
  wayOf,
  crossingOrder,
  crossingFaces,
  crossingSteps,
  indexAt,
  INKS,
  isCrossed,
  isCrossing,
  NO_STITCH,
  beginsRight,
  ropeInk,
  ropesOf,
  rowFacts,
  rowTitle,
  sideOf,
  sideSign,
  takesOf,
  workChart,
  type Band,
  type Chart,
  type Face,
  type Settings,
  takesTurns,
} from '@cordelina/core';
import { useAppSelector } from '../desk/state/index.js';
import { TOKENS } from '@cordelina/core';

const SHOWN = 36;

/**
 * The loops on the left needle as the row at the cursor begins, in the order they are worked, with their faces;
 * the stitch at the cursor is lined out, and what a crossing there does to its loops is shown beside.
 */
export function NeedleStrip({
  chart,
  own,
  settings,
  apart,
}: {
  /** The chart as it is looked at, and as the design has it. */
  chart: Chart;
  own: Chart;
  settings: Settings;
  /** Whether the ropes are told apart, by colour and letter. */
  apart: boolean;
}) {
  const cursor = useAppSelector((s) => s.bench.cursor);
  const writing = useAppSelector((s) => s.bench.writing);
  const book = bookOf(chart);
  const r = Math.min(cursor.row, chart.rows.length - 1);
  const row = chart.rows[r]!;
  const works = workChart(chart);
  const below = (r > 0 ? works[r - 1]!.loops : castOnNeedle(row, book)).map((loop) => loop.face);
  const side = sideOf(chart, r);
  const fromRight = beginsRight(side, { way: wayOf(chart), hand: settings.hand });
  const i = indexAt(row, cursor.column, book);
  const stitch = i < 0 ? NO_STITCH : row[i]!;
  const first = i < 0 ? 0 : rowFacts(row, book).meets[i]!;
  const taken = i < 0 ? 0 : takesOf(stitch, book);

  // Places of the loops in working order, a window of them around the cursor.
  const order = below.map((_, place) => (fromRight ? place : below.length - 1 - place));
  const here = fromRight ? first : below.length - first - taken;
  const from = Math.max(0, Math.min(here - SHOWN / 2, below.length - SHOWN));
  const shown = order.slice(from, from + SHOWN);
  const ropes = apart ? ropesOf(chart) : null;
  /** The rope of each loop on the needle; -1 for none. A strand that will be one is one from the cast-on. */
  const ropeOf = (place: number): number =>
    (r > 0 ? ropes?.loops[r - 1]?.[place] : ropes?.loops[0]?.[place]) ?? -1;
  const written = writing?.row === r ? writing : null;
  // While a row is written, the loops its words take so far are lined out.
  const isTaken = (place: number) =>
    written
      ? (fromRight ? place : below.length - 1 - place) < written.taken
      : place >= first && place < first + taken;

  const band = own.bands[r];
  /** Whether a marker of the band hangs before a loop, by its place: a stretch has the travelling loop among its own. */
  const isMarked = (place: number) =>
    band !== undefined && isCrossed(band) && place > 0 && (place + 1) % band.every === 0;
  const manner = mannerOf(settings.style, chart);
  const words = wordsOfRow(chart, r, dictionOf(chart, settings), manner);
  const steps = isCrossing(stitch) ? crossingSteps(stitch, side, settings.hand, manner) : '';
  return (
    <section
      aria-label="Needle"
      className="flex h-[112px] shrink-0 items-center gap-5 border-t border-rule px-4 py-1"
    >
      <div className="min-w-0 flex-1">
        {!written && (
          <p data-testid="row-words" className="line-clamp-3 font-mono text-[12.5px] leading-snug">
            {words}
          </p>
        )}
        <p className="truncate text-[13px]">
          <span className="font-semibold">
            {rowTitle(chart, r + 1)}
            {takesTurns(wayOf(chart)) ? ` (${sideSign(sideOf(own, r), own)})` : ''}
          </span>
          <span className="text-slate">
            {' '}
            {written
              ? `the words take ${written.taken} of ${written.waiting} loops, ${leftOver(written.waiting - written.taken)}`
              : `${below.length} ${wayOf(chart).loops === 2 ? 'pairs' : 'loops'} wait, worked ${fromRight ? 'right to left' : 'left to right'}`}
            {band && !written && `; over a band, ${bandTold(band)}`}
          </span>
        </p>
        <svg
          role="img"
          aria-label={`Loops in working order: ${shown.map((p) => (below[p] === 'knit' ? 'k' : 'p')).join('')}`}
          viewBox={`0 0 ${SHOWN * 16 + 24} 34`}
          className="charted mt-1 h-[34px] max-w-full"
          style={{ width: SHOWN * 16 + 24 }}
        >
          <line
            x1={0}
            x2={shown.length * 16 + 12}
            y1={10}
            y2={10}
            stroke={TOKENS.slate}
            strokeWidth={3}
            strokeLinecap="round"
          />
          {shown.map((place, k) =>
            isMarked(place) ? (
              <path
                key={`marker ${place}`}
                data-testid="band-marker"
                d={`M ${4 + k * 16} 1 v 18 m -3 0 h 6`}
                stroke={TOKENS.woad}
                strokeWidth={2}
                fill="none"
              />
            ) : null,
          )}
          {from > 0 && (
            <text x={-2} y={30} fontSize={10} fill={TOKENS.slate}>
              …
            </text>
          )}
          {shown.map((place, k) => (
            <Loop
              key={place}
              x={12 + k * 16}
              face={below[place]!}
              lined={isTaken(place)}
              rope={ropeOf(place)}
            />
          ))}
          {from + SHOWN < below.length && (
            <text x={SHOWN * 16 + 14} y={24} fontSize={11} fill={TOKENS.slate}>
              …
            </text>
          )}
        </svg>
      </div>
      {isCrossing(stitch) && (
        <div className="shrink-0" data-testid="crossing-effect">
          <p className="max-w-[340px] truncate text-[12.5px] text-slate" title={steps}>
            {steps}
          </p>
          <Effect
            ropeOf={(place) => ropeOf(first + place)}
            faces={below.slice(first, first + taken)}
            after={crossingFaces(stitch)}
            order={crossingOrder(stitch)}
            front={frontPlaces(stitch.lean === 'left', stitch)}
          />
        </div>
      )}
      <span className="sr-only">{rowFacts(row, book).takes} loops are taken.</span>
    </section>
  );
}

const bandTold = (band: Band): string =>
  `its travelling stitch worked with the first${isCrossed(band) ? `, a marker every ${band.every}` : ''}`;

const leftOver = (n: number): string => `${n || 'none'} ${n > 1 ? 'are' : 'is'} left over`;

function frontPlaces(
  left: boolean,
  {
    front,
    centre,
    back,
  }: { front: readonly unknown[]; centre: readonly unknown[]; back: readonly unknown[] },
): (place: number) => boolean {
  return left ? (p) => p < front.length : (p) => p >= back.length + centre.length;
}

/** A knit loop on the needle. */
const knitLoop = (x: number) =>
  `M ${x - 4} 31 C ${x - 4} 18 ${x - 5} 3 ${x} 3 C ${x + 5} 3 ${x + 4} 18 ${x + 4} 31`;

function Loop({ x, face, lined, rope }: { x: number; face: Face; lined: boolean; rope: number }) {
  const cord = rope < 0 ? null : INKS[ropeInk(rope)];
  return (
    <g>
      {lined && <rect x={x - 7.5} y={0} width={15} height={34} fill="#2b587622" />}
      {face === 'knit' ? (
        <>
          <path
            d={knitLoop(x)}
            fill="none"
            stroke={TOKENS.peat}
            strokeWidth={cord ? 5 : 2}
            strokeLinecap="round"
          />
          {cord && <path d={knitLoop(x)} fill="none" stroke={cord} strokeWidth={2.6} strokeLinecap="round" />}
        </>
      ) : (
        <>
          <path
            d={`M ${x - 4} 24 C ${x - 4} 16 ${x - 5} 3 ${x} 3 C ${x + 5} 3 ${x + 4} 16 ${x + 4} 24`}
            fill="none"
            stroke={TOKENS.ruleHeavy}
            strokeWidth={1.6}
          />
          <ellipse cx={x} cy={26} rx={5.5} ry={3.2} fill={TOKENS.peat} />
        </>
      )}
    </g>
  );
}

function Effect({
  faces,
  after,
  order,
  front,
  ropeOf,
}: {
  faces: readonly Face[];
  after: readonly Face[];
  order: number[];
  front: (place: number) => boolean;
  /** The rope of a loop, by its place in the crossing; -1 for none. */
  ropeOf: (place: number) => number;
}) {
  const n = order.length;
  const xOf = (place: number) => (n - 1 - place) * 14 + 8;
  return (
    <svg
      aria-hidden
      width={n * 14 + 4}
      height={36}
      viewBox={`0 0 ${n * 14 + 4} 36`}
      className="charted block"
    >
      {[false, true].map((inFront) =>
        order.map((from, to) =>
          front(from) === inFront ? (
            <g key={to}>
              <line x1={xOf(from)} y1={33} x2={xOf(to)} y2={3} stroke={TOKENS.fleece} strokeWidth={6} />
              <line
                x1={xOf(from)}
                y1={33}
                x2={xOf(to)}
                y2={3}
                stroke={inFront || ropeOf(from) >= 0 ? TOKENS.peat : TOKENS.ruleHeavy}
                strokeWidth={ropeOf(from) < 0 ? 2.5 : 5}
                strokeDasharray={after[to] === 'purl' || faces[from] === 'purl' ? '2 2' : undefined}
              />
              {ropeOf(from) >= 0 && (
                <line
                  x1={xOf(from)}
                  y1={33}
                  x2={xOf(to)}
                  y2={3}
                  stroke={INKS[ropeInk(ropeOf(from))]}
                  strokeWidth={3}
                />
              )}
            </g>
          ) : null,
        ),
      )}
    </svg>
  );
}
