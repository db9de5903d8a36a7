import {
  eventText,
  meantCrossings,
  plaitsOf,
  plaitText,
  ropedOf,
  ropeName,
  ropesOf,
  turnOver,
  type Chart,
  type Place,
  type Plait,
  type Settings,
  counted,
} from '@cordelina/core';
import { useMemo } from 'react';
import type { Cell } from '../desk/state/bench.js';
import { ropeAtCell } from './follow.js';

/** The plaits of a chart, those of its crossings that are meant left as they lie. */
export function usePlaits(chart: Chart, { meant }: Settings, on: boolean): readonly Plait[] {
  return useMemo(
    () => (on ? plaitsOf(chart, meantCrossings({ chart, meant, roped: ropedOf(chart) })) : []),
    [chart, meant, on],
  );
}

/** What the ropes do, in words: each plait, and the rope at the cursor. */
export function RopesPanel({
  chart,
  plaits,
  cursor,
  onTurn,
}: {
  chart: Chart;
  plaits: readonly Plait[];
  cursor: Cell;
  onTurn: (places: readonly Place[]) => void;
}) {
  const ropes = useMemo(() => ropesOf(chart), [chart]);
  const rope = ropeAtCell(ropes, cursor);
  const here = rope === null ? null : ropes.ropes[rope]!;
  const next = here?.events.find((e) => e.row > cursor.row);
  return (
    <section
      aria-label="Ropes"
      className="max-h-[46%] shrink-0 overflow-auto border-b-2 border-ruleHeavy pb-2"
      data-testid="ropes"
    >
      <h2 className="px-3 pt-2.5 pb-1 text-[15px] font-semibold">
        Ropes <span className="text-slate">{ropes.ropes.length}</span>
      </h2>
      {here && (
        <p className="mb-2 border-b border-rule px-3 pb-1.5 text-[13.5px]">
          <strong className="font-semibold">Rope {ropeName(rope!)}</strong> at the cursor:{' '}
          {counted(here.strands.length, 'stitch')}
          {next ? `; it ${eventText(chart, next)}` : `; no more crossings above`}.{' '}
          <span className="text-slate">Ctrl ↑ and Ctrl ↓ follow it.</span>
        </p>
      )}
      {!plaits.length && (
        <p className="px-3 text-[14px] text-slate">
          {ropes.ropes.length ? 'None of the ropes meets another.' : 'No rope crosses yet.'}
        </p>
      )}
      <ul className="grid gap-2 px-3">
        {plaits.map((plait, i) => (
          <li key={i} className="text-[14px] leading-snug">
            {plaitText(chart, plait)}
            {plait.turns.length > 0 && (
              <button
                type="button"
                onClick={() => onTurn(plait.turns)}
                className="mt-1 block rounded-sm border border-slate/80 bg-chalk px-2 py-0.5 text-[13px] hover:border-peat"
              >
                Turn {plait.turns.length === 1 ? 'it' : `these ${plait.turns.length}`} over
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

export const turned = (places: readonly Place[]) => (c: Chart) => turnOver(c, places);
