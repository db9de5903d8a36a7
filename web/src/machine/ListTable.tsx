import { actionSigns, toolsOf, type Action, type Pictured, type ToldList } from '@cordelina/core';
import { Fragment } from 'react';
import { NeedlesPair } from './NeedlesPair.js';

/** The operator's list: what is told once and what comes again, each with its tick box, its needles and its tool. */
export function ListTable({
  told,
  pictures,
  counter,
  rows,
  ticked,
  onTick,
}: {
  told: ToldList;
  /** Of each told action, in their order. */
  pictures: readonly (Pictured | null)[];
  /** The count that the simulated beds stand at. */
  counter: number;
  rows: number;
  ticked: ReadonlySet<number>;
  onTick: (place: number) => void;
}) {
  const { before, again, after } = told;
  const first = before.length;
  const then = first + (again?.actions.length ?? 0);
  const line = (action: Action, i: number) => (
    <Line
      key={i}
      action={action}
      pictured={pictures[i] ?? null}
      isHere={action.counter === counter}
      isTicked={ticked.has(i)}
      onTick={() => onTick(i)}
    />
  );
  return (
    <ol className="grid text-[14px]">
      {before.map((action, i) => line(action, i))}
      {again && (
        <Fragment key="again">
          <li className="border-t border-rule bg-wash px-3 py-1.5 font-semibold">
            {again.times} times: rows {again.from + 1}–{again.from + again.rows}, then again from count{' '}
            {Array.from(
              { length: Math.min(again.times - 1, MOST_COUNTS) },
              (_, i) => again.from + (i + 1) * again.rows,
            ).join(', ')}
            {again.times - 1 > MOST_COUNTS && ' …'}
          </li>
          {again.actions.map((action, i) => line(action, first + i))}
        </Fragment>
      )}
      {after.length > 0 && again && (
        <li className="border-t border-rule bg-wash px-3 py-1.5 font-semibold">Then</li>
      )}
      {after.map((action, i) => line(action, then + i))}
      <li className="border-t border-rule px-3 py-2 text-slate">Knit to count {rows}.</li>
    </ol>
  );
}

/** So many further counts of a repeat are written out. */
const MOST_COUNTS = 8;

function Line({
  action,
  pictured,
  isHere,
  isTicked,
  onTick,
}: {
  action: Action;
  pictured: Pictured | null;
  isHere: boolean;
  isTicked: boolean;
  onTick: () => void;
}) {
  const { counter, kind, over = [], out } = action;
  const said = kind === 'cable' ? 'cable' : 'move';
  return (
    <li
      className={`grid break-inside-avoid grid-cols-[24px_52px_1fr_auto] items-center gap-2 border-t border-rule px-3 py-2 ${isHere ? 'bg-peat/8 print:bg-transparent' : ''}`}
      aria-current={isHere ? 'step' : undefined}
    >
      <input
        type="checkbox"
        checked={isTicked}
        onChange={onTick}
        aria-label={`Count ${counter}, ${said}: done`}
        className="h-5 w-5"
      />
      <span className="font-serif text-[20px] leading-none font-semibold">{counter}</span>
      <span className="leading-snug">
        <span className="font-semibold">{said}</span> {actionSigns(action)}
        <span className="block text-[13px] text-slate">
          {[
            ...(kind === 'cable' ? [`${over.join(' ')} ${over.length > 1 ? 'lie' : 'lies'} over`] : []),
            ...(out.length ? [`${out.join(' ')} out of work`] : []),
            toolsOf(action),
          ].join(' · ')}
        </span>
      </span>
      {pictured ? <NeedlesPair pictured={pictured} /> : <span />}
    </li>
  );
}
