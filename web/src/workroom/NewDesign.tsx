import {
  ChartSchema,
  cutText,
  SCHOOL_NOTES,
  SCHOOLS,
  type School,
  startChart,
  startDesign,
  type Chart,
  type Problem,
} from '@cordelina/core';
import { zodResolver } from '@hookform/resolvers/zod';
import { Tabs } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { useAppDispatch } from '../store/index.js';
import { Button } from '../ui/Button.js';
import { Choose, Field, Input, Select } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';
import { makeDesign } from './actions.js';
import { newId } from '../store/newId.js';
import { Stopped, StoppableWorker } from '../workers/words.js';

const size = (what: string, most: number) =>
  z.coerce
    .number<string>({ error: `How many ${what}? A whole number.` })
    .int(`How many ${what}? A whole number.`)
    .min(1, `At least one ${what.slice(0, -1)}.`)
    .max(most, `At most ${most} ${what}.`);

const Form = z.object({
  title: z.string().trim().min(1, 'A design needs a title.').max(120),
  columns: size('columns', 600),
  rows: size('rows', 1200),
  construction: z.enum(['flat', 'round']),
  ground: z.enum(['p', 'k']),
});

const TAB = 'border-b-2 border-transparent px-1 pb-1 data-[state=active]:border-peat';

/** A new design from a starting cloth, or from written rows. */
export function NewDesign({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const make = async (title: string, chart: Chart) => {
    const id = await dispatch(makeDesign(startDesign(newId(), title, chart)));
    if (id) void navigate(`/designs/${id}`);
  };
  return (
    <SheetDialog open={open} onOpenChange={onOpenChange} title="New design">
      <Tabs.Root defaultValue="cloth">
        <Tabs.List className="mb-4 flex gap-5 border-b border-rule" aria-label="Begin with">
          <Tabs.Trigger value="cloth" className={TAB}>
            A cloth
          </Tabs.Trigger>
          <Tabs.Trigger value="words" className={TAB}>
            Written rows
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="cloth">
          <FromCloth onMake={make} />
        </Tabs.Content>
        <Tabs.Content value="words">
          <FromWords onMake={make} />
        </Tabs.Content>
      </Tabs.Root>
    </SheetDialog>
  );
}

type Make = (title: string, chart: Chart) => Promise<void>;

function FromCloth({ onMake }: { onMake: Make }) {
  const { register, handleSubmit, formState } = useForm<z.input<typeof Form>, unknown, z.output<typeof Form>>(
    {
      resolver: zodResolver(Form),
      defaultValues: { title: '', columns: '24', rows: '16', construction: 'flat', ground: 'p' },
    },
  );
  const { errors } = formState;
  return (
    <form
      noValidate
      className="grid gap-3.5"
      onSubmit={(e) => void handleSubmit(({ title, ...cloth }) => onMake(title, startChart(cloth)))(e)}
    >
      <Field label="Title" error={errors.title?.message}>
        {(props) => <Input {...props} {...register('title')} autoFocus autoComplete="off" />}
      </Field>
      <div className="grid grid-cols-2 gap-3.5">
        <Field label="Columns (stitches)" error={errors.columns?.message}>
          {(props) => <Input {...props} {...register('columns')} inputMode="numeric" />}
        </Field>
        <Field label="Rows" error={errors.rows?.message}>
          {(props) => <Input {...props} {...register('rows')} inputMode="numeric" />}
        </Field>
        <Field label="Worked">
          {(props) => (
            <Select {...props} {...register('construction')}>
              <option value="flat">flat, back and forth</option>
              <option value="round">in the round</option>
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
      </div>
      <Button tone="main" type="submit" className="justify-self-end" disabled={formState.isSubmitting}>
        Lay it on the bench
      </Button>
    </form>
  );
}

function FromWords({ onMake }: { onMake: Make }) {
  const [title, setTitle] = useState('');
  const [text, setText] = useState('');
  const [construction, setConstruction] = useState<'flat' | 'round'>('flat');
  const [school, setSchool] = useState<School | ''>('');
  const [problems, setProblems] = useState<Problem[]>([]);
  const [reading, setReading] = useState(false);
  const worker = useRef<StoppableWorker>(null);
  useEffect(() => () => worker.current?.stop(), []);
  const read = async () => {
    if (!title.trim())
      return setProblems([{ id: 'no-title', level: 'error', message: 'A design needs a title.' }]);
    setReading(true);
    setProblems([]);
    worker.current ??= new StoppableWorker();
    try {
      const options = { construction, firstRow: 'RS', school: school || undefined } as const;
      const { chart, problems: found } = await worker.current.run((words) => words.read(text, options));
      if (found.length || !chart) setProblems(found);
      // Read in another thread: its crossings are made this thread's own.
      else await onMake(cutText(title.trim(), 120), ChartSchema.parse(chart));
    } catch (error) {
      if (!(error instanceof Stopped))
        setProblems([{ id: 'not-read', level: 'error', message: 'The rows could not be read. Try fewer.' }]);
    } finally {
      setReading(false);
    }
  };
  return (
    <form
      noValidate
      className="grid gap-3.5"
      onSubmit={(e) => {
        e.preventDefault();
        void read();
      }}
    >
      <div className="grid grid-cols-2 gap-3.5">
        <Field label="Title">
          {(props) => (
            <Input {...props} value={title} onChange={(e) => setTitle(e.target.value)} autoComplete="off" />
          )}
        </Field>
        <Choose
          label="Worked"
          value={construction}
          onChange={setConstruction}
          options={[
            ['flat', 'flat, back and forth'],
            ['round', 'in the round'],
          ]}
        />
      </div>
      <Field label="Rows" hint="One line a row. Crossings by name, or spelled out; a key may follow.">
        {(props) => (
          <textarea
            {...props}
            rows={7}
            spellCheck={false}
            value={text}
            onChange={(e) => setText(e.target.value)}
            placeholder={
              'Row 1 (RS): p2, *k4, p2; rep from * to end.\nRow 2: work the stitches as they present.\nRow 3: p2, *2/2 LC, p2; rep from * to end.'
            }
            className="w-full rounded-sm border border-slate/50 bg-chalk p-2 font-mono text-[13px] leading-relaxed"
          />
        )}
      </Field>
      <Choose
        label="Names of crossings in it"
        value={school}
        onChange={setSchool}
        options={[
          ['', 'ask where a name may mean two things'],
          ...SCHOOLS.filter((s) => s !== 'spelled').map(
            (s) => [s, `${SCHOOL_NOTES[s].title}: ${SCHOOL_NOTES[s].example}`] as const,
          ),
        ]}
      />
      {problems.length > 0 && (
        <ul role="alert" className="grid max-h-40 gap-1 overflow-auto text-[14px] text-madder">
          {problems.slice(0, 12).map((p, i) => (
            <li key={i}>{p.message}</li>
          ))}
        </ul>
      )}
      <div className="flex items-center justify-end gap-3">
        {reading && (
          <>
            <span role="status" className="text-[14px] text-slate">
              Reading {text.split('\n').length} lines …
            </span>
            <Button onClick={() => worker.current?.stop()}>Stop</Button>
          </>
        )}
        <Button tone="main" type="submit" disabled={reading}>
          Read into a chart
        </Button>
      </div>
    </form>
  );
}
