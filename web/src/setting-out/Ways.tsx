import {
  lengthText,
  UNIT,
  type Design,
  type LengthWay,
  type Piece,
  type PieceFit,
  type Size,
} from '@cordelina/core';
import { Button } from '../ui/Button.js';
import { useFits } from './useSurvey.js';

/** What is no nearer than this is said to be far off. */
const NEAR = { cm: UNIT.cm, in: UNIT.in / 2 } as const;

/** The ways to the width and the length that a size wishes for, the nearest first; each can be taken. */
export function Ways({
  design,
  piece,
  size,
  units,
  onTake,
  onLength,
}: {
  design: Design;
  piece: Piece;
  size: Size;
  units: 'cm' | 'in';
  onTake: (way: PieceFit) => void;
  onLength: (way: Piece['length']['way']) => void;
}) {
  const { fits: found, isCurrent } = useFits(design, size.id);
  if (!found) return <p className="text-[14px] text-slate">Looking for the ways to size {size.name} …</p>;
  const { widths: fits, lengths } = found;
  if (!fits)
    return (
      <p className="text-[14px] text-slate">
        Type what size {size.name} is to measure, and the ways to that width are listed here.
      </p>
    );
  return (
    <section aria-label="Ways to the width">
      <h3 className="font-sans text-[14px] font-semibold">
        {size.name}: {lengthText(fits.wanted, units)} across
      </h3>
      {fits.problem && <p className="text-[14px] text-madder">{fits.problem}</p>}
      {!fits.problem && Math.abs(fits.ways[0]?.off ?? 0) > NEAR[units] && (
        <p className="text-[13.5px] text-madder">
          Nothing comes within {lengthText(NEAR[units], units)}. Widen the bounds of a part, or take the
          nearest.
        </p>
      )}
      <ol className="mt-1 grid gap-1.5">
        {fits.ways.map((way, i) => (
          <li key={i} className="flex items-start gap-2 border-t border-rule pt-1.5 text-[13.5px]">
            <div className="min-w-0 flex-1">
              <span className="font-semibold">{lengthText(way.width, units)}</span>, {way.castOn} sts
              <span className="block text-slate">
                {way.changes.length
                  ? way.changes.map((c) => `${c.name} ${c.was} → ${c.now}`).join(', ')
                  : 'as it is now'}
                {way.uneven ? '; not the same on both sides' : ''}
              </span>
            </div>
            <Button
              className="h-7"
              disabled={!isCurrent || !way.changes.length}
              aria-label={`Take ${lengthText(way.width, units)}, ${way.castOn} stitches`}
              onClick={() => onTake(way)}
            >
              Take
            </Button>
          </li>
        ))}
      </ol>
      {lengths && <Lengths ways={lengths} piece={piece} size={size} units={units} onLength={onLength} />}
      {!fits.isWhole && <p className="text-[13px] text-slate">There are more ways than were looked at.</p>}
    </section>
  );
}

const WAY_NAMES = {
  whole: 'whole repeats',
  part: 'ended part-way',
  centred: 'begun and ended alike',
} as const;

/** The ways to the wished length, by the rows of the part that leads. */
function Lengths({
  ways,
  piece,
  size,
  units,
  onLength,
}: {
  ways: readonly LengthWay[];
  piece: Piece;
  size: Size;
  units: 'cm' | 'in';
  onLength: (way: Piece['length']['way']) => void;
}) {
  if (size.length === null) return null;
  // Of each kind the nearest.
  const told = ways.filter((w, i) => ways.findIndex((o) => o.kind === w.kind) === i);
  return (
    <>
      <h3 className="mt-3 font-sans text-[14px] font-semibold">{lengthText(size.length, units)} long</h3>
      <ol className="mt-1 grid gap-1.5">
        {told.map((way) => (
          <li key={way.kind} className="flex items-start gap-2 border-t border-rule pt-1.5 text-[13.5px]">
            <div className="min-w-0 flex-1">
              <span className="font-semibold">{lengthText(way.length, units)}</span>, {WAY_NAMES[way.kind]}
              <span className="block text-slate">
                {way.rows} rows, from row {way.begins} to row {way.ends} of its repeat
              </span>
            </div>
            <Button
              className="h-7"
              disabled={way.kind === piece.length.way}
              aria-label={`Take ${lengthText(way.length, units)}, ${WAY_NAMES[way.kind]}`}
              onClick={() => onLength(way.kind)}
            >
              {way.kind === piece.length.way ? 'Taken' : 'Take'}
            </Button>
          </li>
        ))}
      </ol>
    </>
  );
}
