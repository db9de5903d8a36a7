import { acrossOf, sameValue, upOf, type Chart, type Design, LIMITS, type Stored } from '@cordelina/core';
import { format, isToday } from 'date-fns';
import { Bookmark } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { fetchMoment, listMoments, nameMoment, Refused, ServerAway, type Moment } from '../../sync/server.js';
import { chartIn } from '../state/bench.js';
import { onBench, takeBack } from '../state/editing.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';
import { Button } from '../../ui/Button.js';
import { ChartPicture } from '../../ui/ChartPicture.js';
import { Input } from '../../ui/Field.js';
import { SheetDialog } from '../../ui/Sheet.js';

const PICTURE = { width: 226, height: 300 };

const said = (error: unknown): string => {
  if (error instanceof ServerAway) return 'The server is away; earlier states are kept there.';
  if (error instanceof Refused) return error.message;
  return 'Something went wrong.';
};

const when = (at: string): string => {
  const date = new Date(at);
  return isToday(date) ? `today ${format(date, 'HH:mm:ss')}` : format(date, 'd MMM yyyy, HH:mm');
};

/** A state's name, or what was done to get there. */
function nameOf({ name, label, version }: Moment, isNewest: boolean): string {
  if (name) return name;
  if (isNewest) return 'as it is saved now';
  if (version === 1) return 'as it was begun';
  return label ?? 'kept';
}

/** The design's earlier states: looked at beside the present one, named, taken back. */
export function HistorySheet({
  onClose,
  onSaveCopy,
  onBringBack,
}: {
  onClose: () => void;
  /** The design as a file, out and back. */
  onSaveCopy: () => void;
  onBringBack: () => void;
}) {
  const dispatch = useAppDispatch();
  const box = useAppSelector(onBench)!;
  const { id, base } = box;
  const [moments, setMoments] = useState<Moment[] | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [earlier, setEarlier] = useState<Stored | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  useEffect(() => {
    let left = false;
    listMoments(id).then(
      (found) => !left && setMoments(found),
      (error: unknown) => !left && setTrouble(said(error)),
    );
    return () => void (left = true);
  }, [id, base]);

  useEffect(() => {
    if (chosen === null) return;
    let left = false;
    fetchMoment(id, chosen).then(
      (found) => !left && (setEarlier(found), setTrouble(null)),
      (error: unknown) => !left && setTrouble(said(error)),
    );
    return () => void (left = true);
  }, [id, chosen]);

  const moment = moments?.find((m) => m.version === chosen) ?? null;
  const shown = earlier && earlier.version === chosen ? earlier : null;
  const name = async (text: string) => {
    if (!moment) return;
    try {
      await nameMoment(id, moment.version, text.trim() || null);
      setMoments(await listMoments(id));
    } catch (error) {
      setTrouble(said(error));
    }
  };
  return (
    <SheetDialog
      open
      wide
      onOpenChange={(open) => !open && onClose()}
      title="Earlier states"
      note="All of the last hour, then the last of each hour, day and week. A state with a name is kept for good."
    >
      {trouble && (
        <p role="alert" className="mb-3 text-madder">
          {trouble}
        </p>
      )}
      <div className="grid grid-cols-[210px_1fr] gap-5 max-md:grid-cols-1 max-md:gap-3">
        <ul
          aria-label="Earlier states"
          className="h-[430px] overflow-auto border-y border-rule max-md:h-[24vh]"
        >
          {!moments && !trouble && <li className="p-2 text-slate">Looking …</li>}
          {moments?.map((m, i) => (
            <li key={m.version} className="border-b border-rule last:border-b-0">
              <button
                type="button"
                aria-pressed={m.version === chosen}
                onClick={() => setChosen(m.version)}
                className="w-full px-2 py-1.5 text-left hover:bg-wash aria-pressed:bg-peat aria-pressed:text-chalk"
              >
                <span className="flex items-center gap-1.5 text-[14px] font-semibold">
                  {m.name && <Bookmark size={13} aria-hidden className="shrink-0" />}
                  <span className="truncate">{nameOf(m, i === 0)}</span>
                </span>
                <span className="block text-[12.5px] opacity-80">{when(m.savedAt)}</span>
              </button>
            </li>
          ))}
        </ul>
        {shown && moment ? (
          <div className="grid content-start gap-3">
            <Beside then={shown.document} now={box.document} />
            <form
              key={moment.version}
              className="flex items-end gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                const given = new FormData(e.currentTarget).get('name');
                if (typeof given === 'string') void name(given);
              }}
            >
              <label className="grid grow gap-1 text-[14px]">
                Name, to keep it for good
                <Input
                  name="name"
                  defaultValue={moment.name ?? ''}
                  maxLength={LIMITS.title}
                  autoComplete="off"
                />
              </label>
              <Button type="submit">{moment.name ? 'Rename' : 'Name it'}</Button>
            </form>
            <Button
              tone="main"
              className="justify-self-end"
              disabled={sameValue(shown.document, box.document)}
              onClick={() => {
                if (dispatch(takeBack(shown.document, 'take back an earlier state'))) onClose();
              }}
            >
              Take this state back
            </Button>
          </div>
        ) : (
          <p className="self-center text-center text-slate">
            {chosen === null ? 'Choose a state to see it beside the present one.' : 'Opening …'}
          </p>
        )}
      </div>
      <div className="mt-4 flex flex-wrap items-center gap-2 border-t border-rule pt-3">
        <span className="mr-auto text-[14px] text-slate">
          As it is now, for another program or another desk:
        </span>
        <Button onClick={onSaveCopy}>Save a copy as a file …</Button>
        <Button onClick={onBringBack}>Bring a file back …</Button>
      </div>
    </SheetDialog>
  );
}

/** Rows of a chart that are not so in the other; all where the heights differ from there on. */
function differing(chart: Chart, other: Chart | undefined): Set<number> {
  return new Set(chart.rows.flatMap((row, r) => (sameValue(row, other?.rows[r]) ? [] : [r])));
}

function Beside({ then, now }: { then: Design; now: Design }) {
  const shown = useAppSelector((s) => s.bench.chart);
  const [a, b] = [chartIn(then, shown), chartIn(now, shown)];
  const marked = useMemo(() => ({ then: differing(a, b), now: differing(b, a) }), [a, b]);
  const settings = [
    then.title !== now.title && `title: ${then.title}`,
    then.notes !== now.notes && 'notes',
    !sameValue(then.settings, now.settings) && 'settings',
    !sameValue([acrossOf(a), upOf(a)], [acrossOf(b), upOf(b)]) && 'repeats',
    !sameValue(a.own, b.own) && 'stitches of your own',
    then.charts.length !== now.charts.length && 'charts',
  ].filter(Boolean);
  const rows = marked.then.size;
  return (
    <>
      <div className="grid grid-cols-2 gap-4 max-md:grid-cols-1 max-md:gap-2">
        <Side name="then" design={then} chart={a} marked={marked.then} />
        <Side name="now" design={now} chart={b} marked={marked.now} />
      </div>
      <p className="text-[14px] text-slate">
        {rows || settings.length
          ? [rows ? `${rows} ${rows === 1 ? 'row was' : 'rows were'} different` : '', ...settings]
              .filter(Boolean)
              .join('; ')
          : 'Nothing was different.'}
      </p>
    </>
  );
}

function Side({
  name,
  design,
  chart,
  marked,
}: {
  name: string;
  design: Design;
  chart: Chart;
  marked: ReadonlySet<number>;
}) {
  const place = useMemo(() => {
    const cell = Math.max(
      5,
      Math.min(18, (PICTURE.width - 6) / chart.width, PICTURE.height / chart.rows.length),
    );
    // What does not fit is cut at the left, and where nothing differs at the top.
    const high = Math.floor(PICTURE.height / cell);
    const first = Math.min(...marked, chart.rows.length);
    const from = Math.max(0, Math.min(first - 2, chart.rows.length - high));
    return {
      cell,
      columns: { from: 0, to: Math.min(chart.width, Math.floor((PICTURE.width - 6) / cell)) - 1 },
      rows: { from, to: Math.min(chart.rows.length, from + high) - 1 },
    };
  }, [chart, marked]);
  return (
    <figure className="grid content-start gap-1.5">
      <figcaption className="text-[13.5px] text-slate">
        {name}: {chart.width} × {chart.rows.length}
        {place.rows.to - place.rows.from + 1 < chart.rows.length &&
          `, rows ${place.rows.from + 1} to ${place.rows.to + 1}`}
      </figcaption>
      <ChartPicture
        chart={chart}
        settings={design.settings}
        {...place}
        marked={marked}
        label={`The chart ${name}`}
      />
    </figure>
  );
}
