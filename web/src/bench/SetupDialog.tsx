import { WayOptions } from '../ui/Ways.js';
import {
  acrossOf,
  betterAcross,
  bothCount,
  betterUp,
  EditError,
  hasJogs,
  repeatsAcross,
  repeatsUp,
  setAcross,
  setUp,
  takeAcross,
  takeUp,
  andThen,
  upOf,
  reworked,
  type Chart,
  type Edit,
  hasSetting,
  numberTyped,
} from '@cordelina/core';
import { useMemo, useState, type ReactNode } from 'react';
import { useForm, useWatch, type UseFormRegisterReturn } from 'react-hook-form';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';
import { WayNote } from './WayNote.js';
import { readRepeat, repeatText } from './repeat-text.js';

/** What a smaller repeat is told by. */
const sameText = (length: number, one: 'column' | 'row'): string =>
  length === 1 ? `All of its ${one}s are the same.` : `The same ${length} ${one}s stand in it over and over.`;

/** So many rows are named. */
const MOST_NAMED = 8;

const placesText = (rows: readonly number[]): string => {
  const named = rows.slice(0, MOST_NAMED).join(', ');
  const more = rows.length - MOST_NAMED;
  return `${rows.length === 1 ? 'row' : 'rows'} ${named}${more > 0 ? ` and ${more} more` : ''}`;
};

/** How the chart is worked and what repeats, across and up; nothing changes until all of it makes sense. */
export function SetupDialog({
  chart,
  open,
  onOpenChange,
}: {
  chart: Chart;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <SheetDialog open={open} onOpenChange={onOpenChange} title="Repeat and construction" wide>
      {open && <SetupForm chart={chart} onDone={() => onOpenChange(false)} />}
    </SheetDialog>
  );
}

interface Form {
  construction: Chart['construction'];
  firstRow: Chart['firstRow'];
  ground: Chart['ground'];
  bothFaces: boolean;
  repeats: boolean;
  written: string;
  before: string;
  after: string;
  times: string;
  least: string;
  climbs: boolean;
  setup: string;
  closing: string;
  passes: string;
  end: string;
}

const formOf = (chart: Chart): Form => {
  const [across, up] = [acrossOf(chart), upOf(chart)];
  return {
    construction: chart.construction,
    firstRow: chart.firstRow,
    ground: chart.ground,
    bothFaces: chart.bothFaces,
    repeats: repeatsAcross(chart),
    written: repeatsAcross(chart) ? repeatText(chart.width, across) : '',
    before: String(across.before),
    after: String(across.after),
    times: String(across.times),
    least: String(across.least),
    climbs: repeatsUp(chart),
    setup: String(up.setup),
    closing: String(up.closing),
    passes: String(up.times),
    end: up.end === undefined ? '' : String(up.end),
  };
};

const COUNTS = ['before', 'after', 'times', 'least', 'setup', 'closing', 'passes'] as const;

/** The chart as the form says. @throws EditError with one sentence where it makes no sense */
function asSaid(chart: Chart, form: Form): Edit {
  const whole = (text: string): number => {
    if (!/^\d{1,6}$/.test(text.trim())) throw new EditError('Counts are whole numbers.');
    return Number(text);
  };
  const [before, after, times, least, setup, closing, passes] = COUNTS.map((key) => whole(form[key])) as [
    number,
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  if (times < 1 || passes < 1 || least < 1) throw new EditError('A repeat is worked at least once.');
  const up = { setup, closing, times: passes };
  const ended = form.end.trim() ? { ...up, end: whole(form.end) } : up;
  const framed = andThen(reworked(chart, form).edit, (c) =>
    setAcross(c, form.repeats ? { before, after, times, least } : null),
  );
  return andThen(framed, (c) => setUp(c, form.climbs ? ended : null));
}

function SetupForm({ chart, onDone }: { chart: Chart; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const [error, setError] = useState<string | null>(null);
  const { register, handleSubmit, control, setValue } = useForm<Form>({ defaultValues: formOf(chart) });
  const form = useWatch({ control }) as Form;
  const { width } = chart;

  const submit = (said: Form) => {
    const written = said.repeats && said.written.trim() ? readRepeat(said.written, width) : null;
    if (typeof written === 'string') return setError(written);
    try {
      asSaid(chart, said);
    } catch (e) {
      if (!(e instanceof EditError)) throw e;
      return setError(e.message);
    }
    dispatch(edit('repeat and construction', (c) => asSaid(c, said)));
    onDone();
  };
  /** What is typed as the trade writes it fills in the numbers. */
  const write = (text: string) => {
    const read = readRepeat(text, width);
    if (text.trim()) setValue('repeats', true);
    setError(text.trim() && typeof read === 'string' ? read : null);
    if (typeof read === 'string') return;
    setValue('before', String(read.before));
    setValue('after', String(read.after));
    if (read.times !== null) setValue('times', String(read.times));
  };
  /** What is set in numbers is written as the trade does. */
  const rewrite = (patch: Partial<Form>) => {
    const { before, after, times } = { ...form, ...patch };
    const counts = {
      before: numberTyped(before),
      after: numberTyped(after),
      times: numberTyped(times),
      least: 1,
    };
    setValue('written', Object.values(counts).some(Number.isNaN) ? '' : repeatText(width, counts));
  };
  const take = (label: string, change: (c: Chart) => Edit) => {
    if (dispatch(edit(label, change))) onDone();
  };

  const count = (label: string, key: (typeof COUNTS)[number] | 'end', disabled: boolean, hint?: string) => (
    <Field label={label} hint={hint}>
      {(props) => (
        <Input
          {...props}
          inputMode="numeric"
          {...register(key, {
            onChange: (e: { target: { value: string } }) => {
              if (key === 'before' || key === 'after' || key === 'times') rewrite({ [key]: e.target.value });
            },
          })}
          disabled={disabled}
        />
      )}
    </Field>
  );
  const number = (text: string) => numberTyped(text);
  const inRepeat = width - number(form.before) - number(form.after);
  const lastRow = chart.rows.length - number(form.closing);
  const [across, up] = [betterAcross(chart), betterUp(chart)];
  const { lost } = useMemo(() => reworked(chart, form), [chart, form]);
  const unshifts = hasJogs(chart) && form.construction === chart.construction && !form.repeats;
  return (
    <form noValidate className="grid gap-5" onSubmit={(e) => void handleSubmit(submit)(e)}>
      <RepeatFields
        title="Repeat across"
        on={register('repeats')}
        note={form.repeats && inRepeat > 0 ? `${inRepeat} of ${width} columns repeat.` : ''}
        better={across && sameText(across.length, 'column')}
        onBetter={() => take('take the smallest repeat across', takeAcross)}
      >
        <div className="col-span-4">
          <Field
            label="As it is written"
            hint={`8 + 2: eight columns repeat and two stand beside them. 1 + 8 + 1 says on which side; × 5 how often. The chart has ${width}.`}
          >
            {(props) => (
              <Input
                {...props}
                autoFocus
                placeholder="8 + 2"
                {...register('written', {
                  onChange: (e: { target: { value: string } }) => write(e.target.value),
                })}
              />
            )}
          </Field>
        </div>
        {count('Columns before, at the right', 'before', !form.repeats)}
        {count('Columns after, at the left', 'after', !form.repeats)}
        {count('Worked how many times', 'times', !form.repeats)}
        {count('At least', 'least', !form.repeats)}
      </RepeatFields>
      <RepeatFields
        title="Repeat up"
        on={register('climbs')}
        note={
          form.climbs && lastRow > number(form.setup)
            ? `Rows ${number(form.setup) + 1}–${lastRow} repeat.`
            : ''
        }
        better={up && sameText(up.length, 'row')}
        onBetter={() => take('take the smallest repeat up', takeUp)}
      >
        {count('Set-up rows, once', 'setup', !form.climbs)}
        {count('Closing rows, once', 'closing', !form.climbs)}
        {count('Worked how many times', 'passes', !form.climbs)}
        {count('Then once more, to row', 'end', !form.climbs, 'Left empty: whole passes only.')}
      </RepeatFields>
      <fieldset className="grid grid-cols-3 gap-3.5">
        <legend className="mb-1.5 font-semibold">Construction</legend>
        <Field label="Worked">
          {(props) => (
            <Select {...props} {...register('construction')}>
              <WayOptions />
            </Select>
          )}
        </Field>
        <Field label="Row 1 is">
          {(props) => (
            <Select
              {...props}
              disabled={!hasSetting(form.construction, 'firstRow')}
              {...register('firstRow')}
            >
              <option value="RS">{bothCount(form) ? 'of side 1' : 'a right-side row'}</option>
              <option value="WS">{bothCount(form) ? 'of side 2' : 'a wrong-side row'}</option>
            </Select>
          )}
        </Field>
        <Field label="Ground">
          {(props) => (
            <Select {...props} {...register('ground')}>
              <option value="p">purl</option>
              <option value="k">knit</option>
            </Select>
          )}
        </Field>
        {hasSetting(form.construction, 'bothFaces') && (
          <label className="col-span-3 flex items-start gap-2 text-[14px]">
            <input type="checkbox" className="mt-1" {...register('bothFaces')} />
            <span>
              Both sides count
              <span className="block text-[13px] text-slate">
                Neither is wrong: they have numbers, both are shown, and ropes are to be ribbed.
              </span>
            </span>
          </label>
        )}
      </fieldset>
      <WayNote construction={form.construction} bothFaces={form.bothFaces} />
      {unshifts && <p className="text-slate">Rows that begin elsewhere will begin where the others do.</p>}
      {lost.length > 0 && (
        <section aria-label="Not carried over" className="border-l-2 border-weld pl-3 text-[14px]">
          <p className="font-semibold">Worked that way, not all of this chart is carried over:</p>
          <ul className="mt-1 grid gap-0.5">
            {lost.map(({ what, becomes, rows }) => (
              <li key={what}>
                {what} {becomes}: {placesText(rows)}.
              </li>
            ))}
          </ul>
          <p className="mt-1 text-slate">Nothing is changed until it is set; one undo takes it back.</p>
        </section>
      )}
      {error && (
        <p role="alert" className="text-madder">
          {error}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onDone}>Cancel</Button>
        <Button tone="main" type="submit">
          {lost.length ? 'Set it so' : 'Set'}
        </Button>
      </div>
    </form>
  );
}

function RepeatFields({
  title,
  on,
  note,
  better,
  onBetter,
  children,
}: {
  title: string;
  on: UseFormRegisterReturn;
  note: string;
  /** What repeats in fewer; null where the repeat is the smallest. */
  better: string | null;
  onBetter: () => void;
  children: ReactNode;
}) {
  return (
    <fieldset className="grid grid-cols-4 gap-3.5">
      <legend className="mb-1.5 font-semibold">
        <label className="flex items-center gap-2">
          <input type="checkbox" {...on} /> {title}
        </label>
      </legend>
      {children}
      {(note || better) && (
        <p className="col-span-4 -mt-1 flex items-center gap-3 text-[13px] text-slate">
          {note} {better}
          {better && (
            <Button className="h-7" onClick={onBetter}>
              Take that repeat
            </Button>
          )}
        </p>
      )}
    </fieldset>
  );
}
