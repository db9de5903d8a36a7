import {
  backTo,
  dropOf,
  isCrossing,
  MOST_DROPPED_ROWS,
  needleBefore,
  onNeedles,
  rowBack,
  rowInHands,
  sideSaid,
  titleOf,
  wrongBelow,
  type At,
  type Dropped,
  type Job,
  type TooNarrow,
} from '@cordelina/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { Choose } from '../ui/Field.js';
import { NumberField } from '../ui/NumberField.js';
import { SheetDialog } from '../ui/Sheet.js';

type Way = 'back' | 'drop' | 'wrong';

const WAYS = [
  ['back', 'Take it back, stitch by stitch'],
  ['drop', 'Let some stitches down'],
  ['wrong', 'A crossing is wrong further down'],
] as const;

/** Mistakes: taken back in the order of the hands, a few stitches let down, or what to do about a crossing far below. */
export function UndoSheet({
  job,
  at,
  onGo,
  onClose,
}: {
  job: Job;
  at: At;
  onGo: (at: At) => void;
  onClose: () => void;
}) {
  const [way, setWay] = useState<Way>('back');
  return (
    <SheetDialog open wide onOpenChange={(open) => !open && onClose()} title="Mend a mistake">
      <div className="grid gap-4">
        <Choose label="How" value={way} onChange={setWay} options={WAYS} />
        {way === 'back' && (
          <TakeBack
            job={job}
            at={at}
            onGo={(to) => {
              onGo(to);
              onClose();
            }}
          />
        )}
        {way === 'drop' && <LetDown job={job} at={at} />}
        {way === 'wrong' && <WrongBelow job={job} at={at} />}
      </div>
    </SheetDialog>
  );
}

/** So many groups are shown at once. */
const MOST_SHOWN = 40;

function TakeBack({ job, at, onGo }: { job: Job; at: At; onGo: (at: At) => void }) {
  const [rows, setRows] = useState(0);
  const to = useMemo(() => {
    let place = rowBack(job, at);
    for (let n = 0; n < rows; n++) place = rowBack(job, place);
    return place;
  }, [job, at, rows]);
  const list = useMemo(() => backTo(job, at, to), [job, at, to]);
  const { side, worked, waiting } = onNeedles(job, to);
  const most = Math.max(0, Math.min(at.row, 60) - 1);
  if (!list.length) return <p>Nothing is worked yet.</p>;
  const isPairs = job.manner.stitches === 'pairs';
  const faces = (of: typeof waiting) =>
    runsOf(of.map(({ face }) => (isPairs ? (face === 'knit' ? 'A ' : 'B ') : face[0]!)));
  return (
    <>
      <NumberField label="And so many rows below" value={rows} least={0} most={most} onChange={setRows} />
      <ol className="grid max-h-[44vh] gap-1 overflow-auto border border-rule p-2" data-testid="take-back">
        {list.slice(0, MOST_SHOWN).map(({ group, steps, turns, at: place }, i) => (
          <li key={`${place.row} ${place.group}`} className="grid gap-0.5">
            {turns && <p className="text-slate">Turn the work.</p>}
            {(i === 0 || list[i - 1]!.at.row !== place.row) && (
              <p className="font-semibold">{titleOf(job, place.row).text}</p>
            )}
            {steps.map((step, k) => (
              <p key={k}>
                {k === 0 && <span className="mr-2 font-mono text-slate">{group.text}</span>}
                {step.text}.
              </p>
            ))}
          </li>
        ))}
        {list.length > MOST_SHOWN && (
          <li className="text-slate">… and {list.length - MOST_SHOWN} more groups.</li>
        )}
      </ol>
      <p data-testid="needle-then">
        Then you are before {titleOf(job, to.row).text.toLowerCase()}, {sideSaid(side, job.manner)} towards
        you
        {worked.length > 0 && `, ${worked.length} worked`}: {waiting.length} wait, showing{' '}
        <span className="font-mono">{faces(waiting)}</span>.
      </p>
      <Button tone="main" className="min-h-11 justify-self-start" onClick={() => onGo(to)}>
        Taken back: go there
      </Button>
    </>
  );
}

/** Faces in runs: "k2, p4, k2", shortened where there are many. */
function runsOf(faces: readonly string[]): string {
  const runs: { face: string; n: number }[] = [];
  for (const face of faces) {
    const last = runs.at(-1);
    if (last?.face === face) last.n++;
    else runs.push({ face, n: 1 });
  }
  const shown = runs.slice(0, 24).map(({ face, n }) => `${face}${n}`);
  return shown.join(', ') + (runs.length > shown.length ? ', …' : '') || 'nothing';
}

/** Rows that are whole: a row under way is finished or taken back first. */
function Whole({ job, at }: { job: Job; at: At }) {
  return at.group > 0 && at.row < job.rows.length ? (
    <p className="text-slate">
      Counted after {at.row} whole rows: finish or take back the row under way first.
    </p>
  ) : null;
}

function LetDown({ job, at }: { job: Job; at: At }) {
  const width = needleBefore(job, at.row).length;
  const [from, setFrom] = useState(1);
  const [to, setTo] = useState(Math.min(4, width));
  const [deep, setDeep] = useState(Math.min(4, Math.max(1, at.row)));
  const found = useMemo(
    () =>
      at.row ? dropOf(job, at.row, { from: Math.min(from, to) - 1, to: Math.max(from, to) - 1 }, deep) : null,
    [job, at.row, from, to, deep],
  );
  if (!found) return <p>No row is worked yet.</p>;
  return (
    <>
      <Whole job={job} at={at} />
      <div className="grid grid-cols-3 gap-2">
        <NumberField label="From stitch" value={from} least={1} most={width} onChange={setFrom} />
        <NumberField label="To stitch" value={to} least={1} most={width} onChange={setTo} />
        <NumberField
          label="Rows deep"
          value={deep}
          least={1}
          most={Math.min(at.row, MOST_DROPPED_ROWS)}
          onChange={setDeep}
        />
      </div>
      <p className="text-[13px] text-slate">
        Stitches are counted from the right, with the right side towards you.
      </p>
      <Drop
        found={found}
        onWider={(wider) => {
          setFrom(wider.from + 1);
          setTo(wider.to + 1);
        }}
      />
    </>
  );
}

function Drop({
  found,
  onWider,
}: {
  found: Dropped | TooNarrow;
  onWider?: (wider: Dropped['loops']) => void;
}) {
  if ('reason' in found)
    return (
      <div role="alert" className="grid gap-2" data-testid="too-narrow">
        <p>{found.reason}</p>
        {found.wider && onWider && (
          <Button tone="main" className="min-h-11 justify-self-start" onClick={() => onWider(found.wider!)}>
            Let stitches {found.wider.from + 1} to {found.wider.to + 1} down together
          </Button>
        )}
      </div>
    );
  const { rows, held, cost, loops } = found;
  const wide = loops.to - loops.from + 1;
  return (
    <div className="grid gap-2" data-testid="drop">
      <p>
        Work to stitch {loops.from + 1}, the right side towards you. Leave {held.right} on the right and{' '}
        {held.left} on the left as they are; slip {wide} off and let them run down{' '}
        {rows.length === 1 ? 'one row' : `${rows.length} rows`}: {rows.length} loose bars hang between the
        others. {cost} loops are worked again.
      </p>
      <ol className="grid max-h-[40vh] gap-1 overflow-auto border border-rule p-2">
        {[...rows].reverse().map(({ row, title, words, crossings }) => (
          <li key={row}>
            <span className="mr-2 text-slate">{title}, its bar:</span>
            <span className="font-mono">{words || 'nothing'}</span>
            {crossings > 0 && (
              <span className="ml-2 text-slate">(hold the others of the crossing on a cable needle)</span>
            )}
          </li>
        ))}
      </ol>
      <p className="text-[13px] text-slate">
        Every row is worked from the right side, the lowest bar first, on two short needles or with a hook.
      </p>
    </div>
  );
}

function WrongBelow({ job, at }: { job: Job; at: At }) {
  const crossed = useMemo(
    () =>
      Array.from({ length: Math.min(at.row, 120) }, (_, i) => at.row - 1 - i).flatMap((n) =>
        job.rows[n]!.band === null &&
        rowInHands(job, n).groups.some(({ stitches }) => stitches.some(isCrossing))
          ? [n]
          : [],
      ),
    [job, at.row],
  );
  const [row, setRow] = useState<number | null>(null);
  const [place, setPlace] = useState(0);
  const n = row ?? crossed[0];
  const found = useMemo(() => {
    if (n === undefined) return null;
    const { groups, beginsRight, makes } = rowInHands(job, n);
    const list = groups.flatMap((group) =>
      group.stitches.some(isCrossing)
        ? [{ text: group.text, loop: beginsRight ? group.made : makes - group.made - group.makes }]
        : [],
    );
    const one = list[Math.min(place, list.length - 1)]!;
    return { list, told: wrongBelow(job, at.row, n, one.loop) };
  }, [job, at.row, n, place]);
  if (n === undefined || !found) return <p>No crossing lies below.</p>;
  const { drop, rip, duplicate } = found.told;
  return (
    <>
      <Whole job={job} at={at} />
      <div className="grid grid-cols-2 gap-2">
        <Choose
          label="Its row"
          value={n}
          onChange={(to) => {
            setRow(to);
            setPlace(0);
          }}
          options={crossed.map((r) => [r, `${titleOf(job, r).text}, ${at.row - r} below`] as const)}
        />
        <Choose
          label="Which of the row"
          value={Math.min(place, found.list.length - 1)}
          onChange={setPlace}
          options={found.list.map(({ text }, i) => [i, `${i + 1}. ${text}`] as const)}
        />
      </div>
      <ul className="grid gap-3" data-testid="wrong-below">
        <li>
          {drop ? (
            <details>
              <summary className="min-h-6 cursor-pointer">
                <strong>
                  Drop these {drop.loops.to - drop.loops.from + 1} stitches {rip.rows} rows
                </strong>
                : {drop.cost} loops worked again.
              </summary>
              <div className="mt-2">
                <Drop found={drop} />
              </div>
            </details>
          ) : (
            <>
              <strong>Dropping some stitches</strong> will not do: everything between hangs together.
            </>
          )}
        </li>
        <li>
          <strong>Take {rip.rows} rows back</strong>: {rip.loops} loops worked again.
        </li>
        {duplicate && (
          <li>
            <strong>Duplicate stitch</strong>: embroider {duplicate.loops} loops over, so that the right group
            seems to lie in front. The cloth is thicker there.
          </li>
        )}
        <li>
          <strong>Leave it</strong>: no loop worked again. One crossing leans the other way.
        </li>
      </ul>
    </>
  );
}
