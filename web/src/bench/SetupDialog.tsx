import {
  acrossOf,
  become,
  EditError,
  repeatsAcross,
  repeatsUp,
  upOf,
  setAcross,
  setUp,
  then,
  type Chart,
  type Edit,
} from '@cordelina/core';
import { useState, type ReactNode } from 'react';
import { edit } from '../store/editing.js';
import { useAppDispatch } from '../store/index.js';
import { Button } from '../ui/Button.js';
import { Choose, Field, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';

const whole = (text: string) => (/^\d+$/.test(text.trim()) ? Number(text) : NaN);

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

function SetupForm({ chart, onDone }: { chart: Chart; onDone: () => void }) {
  const dispatch = useAppDispatch();
  const { width } = chart;
  const [across, up] = [acrossOf(chart), upOf(chart)];
  const height = chart.rows.length;
  const [form, setForm] = useState({
    construction: chart.construction,
    firstRow: chart.firstRow,
    ground: chart.ground,
    repeats: repeatsAcross(chart),
    before: String(across.before),
    after: String(across.after),
    times: String(across.times),
    least: String(across.least),
    climbs: repeatsUp(chart),
    setup: String(up.setup),
    closing: String(up.closing),
    rounds: String(up.times),
  });
  const [error, setError] = useState<string | null>(null);
  const set = (patch: Partial<typeof form>) => setForm((f) => ({ ...f, ...patch }));

  const apply = (c: Chart): Edit => {
    const numbers = [
      form.before,
      form.after,
      form.times,
      form.least,
      form.setup,
      form.closing,
      form.rounds,
    ].map(whole);
    if (numbers.some(Number.isNaN)) throw new EditError('Counts are whole numbers.');
    const [before, after, times, least, setup, closing, rounds] = numbers as [
      number,
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    if (times < 1 || rounds < 1 || least < 1) throw new EditError('A repeat is worked at least once.');
    const { construction, firstRow, ground } = form;
    const worked = become(c, { ...c, construction, firstRow, ground });
    const framed = then(worked, (w) => setAcross(w, form.repeats ? { before, after, times, least } : null));
    return then(framed, (f) => setUp(f, form.climbs ? { setup, closing, times: rounds } : null));
  };

  const submit = () => {
    try {
      apply(chart);
    } catch (e) {
      if (!(e instanceof EditError)) throw e;
      return setError(e.message);
    }
    dispatch(edit('repeat and construction', apply));
    onDone();
  };

  const number = (
    label: string,
    key: 'before' | 'after' | 'times' | 'least' | 'setup' | 'closing' | 'rounds',
    disabled: boolean,
  ) => (
    <Field label={label}>
      {(props) => (
        <Input
          {...props}
          inputMode="numeric"
          disabled={disabled}
          value={form[key]}
          onChange={(e) => set({ [key]: e.target.value })}
        />
      )}
    </Field>
  );
  const lastRow = height - whole(form.closing);
  const inRepeat = width - whole(form.before) - whole(form.after);
  return (
    <form
      noValidate
      className="grid gap-5"
      onSubmit={(e) => {
        e.preventDefault();
        submit();
      }}
    >
      <fieldset className="grid grid-cols-3 gap-3.5">
        <legend className="mb-1.5 font-semibold">Construction</legend>
        <Choose
          label="Worked"
          value={form.construction}
          onChange={(construction) => set({ construction })}
          options={[
            ['flat', 'flat, back and forth'],
            ['round', 'in the round'],
          ]}
        />
        <Choose
          label="Row 1 is"
          disabled={form.construction === 'round'}
          value={form.firstRow}
          onChange={(firstRow) => set({ firstRow })}
          options={[
            ['RS', 'a right-side row'],
            ['WS', 'a wrong-side row'],
          ]}
        />
        <Choose
          label="Ground"
          value={form.ground}
          onChange={(ground) => set({ ground })}
          options={[
            ['p', 'purl'],
            ['k', 'knit'],
          ]}
        />
      </fieldset>
      <RepeatFields
        title="Repeat across"
        on={form.repeats}
        onSwitch={(repeats) => set({ repeats })}
        note={inRepeat > 0 ? `${inRepeat} of ${width} columns repeat.` : ''}
      >
        {number('Columns before, at the right', 'before', !form.repeats)}
        {number('Columns after, at the left', 'after', !form.repeats)}
        {number('Worked how many times', 'times', !form.repeats)}
        {number('At least', 'least', !form.repeats)}
      </RepeatFields>
      <RepeatFields
        title="Repeat up"
        on={form.climbs}
        onSwitch={(climbs) => set({ climbs })}
        note={lastRow > whole(form.setup) ? `Rows ${whole(form.setup) + 1}–${lastRow} repeat.` : ''}
      >
        {number('Set-up rows, once', 'setup', !form.climbs)}
        {number('Closing rows, once', 'closing', !form.climbs)}
        {number('Worked how many times', 'rounds', !form.climbs)}
      </RepeatFields>
      {error && (
        <p role="alert" className="text-madder">
          {error}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={onDone}>Cancel</Button>
        <Button tone="main" type="submit">
          Set
        </Button>
      </div>
    </form>
  );
}

function RepeatFields({
  title,
  on,
  onSwitch,
  note,
  children,
}: {
  title: string;
  on: boolean;
  onSwitch: (on: boolean) => void;
  note: string;
  children: ReactNode;
}) {
  return (
    <fieldset className="grid grid-cols-4 gap-3.5">
      <legend className="mb-1.5 font-semibold">
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={on} onChange={(e) => onSwitch(e.target.checked)} /> {title}
        </label>
      </legend>
      {children}
      {on && note && <p className="col-span-4 -mt-1 text-[13px] text-slate">{note}</p>}
    </fieldset>
  );
}
