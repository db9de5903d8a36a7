import {
  become,
  crossingsNamed,
  OWN_MARKS,
  OwnStitchSchema,
  STITCH_KINDS,
  type Chart,
  type OwnMark,
  type OwnStitch,
  numberTyped,
} from '@cordelina/core';
import { ToggleGroup } from 'radix-ui';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';

type Form = typeof EMPTY;

const EMPTY = {
  name: '',
  rs: '',
  ws: '',
  takes: '1',
  makes: '1',
  span: '',
  face: 'knit',
  rsSteps: '',
  wsSteps: '',
  mirror: '',
};

/** The id of a new stitch, from its name; numbered where that is taken. */
function freeId(name: string, chart: Chart): string {
  const stem = `own-${
    name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 32) || 'stitch'
  }`;
  const taken = new Set(chart.own.map((o) => o.id));
  if (!taken.has(stem)) return stem;
  for (let n = 2; ; n++) if (!taken.has(`${stem}-${n}`)) return `${stem}-${n}`;
}

/** Words that another stitch is already written with, on the side where they would be mistaken for it. */
function clash(own: OwnStitch, chart: Chart): string | null {
  const others = [...STITCH_KINDS.values(), ...chart.own];
  for (const side of ['rs', 'ws'] as const) {
    const same = others.find((k) => k[side].replace(/ ?#/, '').toLowerCase() === own[side].toLowerCase());
    if (same) return `"${own[side]}" is already the word for ${same.name}.`;
    if (crossingsNamed(own[side], undefined).length) return `"${own[side]}" is the name of a crossing.`;
  }
  return null;
}

/** A stitch of the designer's own: what it takes and makes, its words on both sides, its symbol from our marks. */
export function OwnStitchDialog({
  chart,
  open,
  onOpenChange,
  onMade,
}: {
  chart: Chart;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onMade: (id: string) => void;
}) {
  const dispatch = useAppDispatch();
  const { register, handleSubmit, control, reset } = useForm<Form>({ defaultValues: EMPTY });
  const form = useWatch({ control }) as Form;
  const [marks, setMarks] = useState<OwnMark[]>(['ring']);
  const [error, setError] = useState<string | null>(null);
  const makes = numberTyped(form.makes) || 0;
  const candidate = {
    id: freeId(form.name, chart),
    name: form.name,
    takes: numberTyped(form.takes),
    makes: numberTyped(form.makes),
    span: form.span.trim() === '' ? Math.max(1, makes) : numberTyped(form.span),
    faces: Array(Math.min(Math.max(0, makes), 12)).fill(form.face),
    marks,
    rs: form.rs,
    ws: form.ws || form.rs,
    rsSteps: form.rsSteps,
    wsSteps: form.wsSteps,
    ...(form.mirror ? { mirror: form.mirror } : {}),
  };
  const shown = OwnStitchSchema.safeParse({ ...candidate, name: 'x', rs: 'x', ws: 'x' });

  const submit = () => {
    const parsed = OwnStitchSchema.safeParse(candidate);
    const field: Record<string, string> = {
      name: 'Name',
      rs: 'Word on the right side',
      ws: 'Word on the wrong side',
      takes: 'Takes',
      makes: 'Makes',
      span: 'Covers',
      marks: 'Marks',
    };
    if (!parsed.success) {
      const issue = parsed.error.issues[0]!;
      const where = field[String(issue.path[0])];
      return setError(where ? `${where}: ${issue.message}` : issue.message);
    }
    const taken = clash(parsed.data, chart);
    if (taken) return setError(taken);
    const made = parsed.data;
    // The mirror image of its mirror image is the stitch itself.
    const paired = (o: OwnStitch) => (o.id === made.mirror ? { ...o, mirror: made.id } : o);
    dispatch(edit(`add ${made.name}`, (c) => become(c, { ...c, own: [...c.own.map(paired), made] })));
    onMade(made.id);
    reset(EMPTY);
    setMarks(['ring']);
    setError(null);
    onOpenChange(false);
  };

  const text = (label: string, key: keyof Form, hint?: string) => (
    <Field label={label} hint={hint}>
      {(props) => <Input {...props} maxLength={300} {...register(key)} />}
    </Field>
  );
  return (
    <SheetDialog
      open={open}
      onOpenChange={onOpenChange}
      title="A stitch of your own"
      note="It is counted, checked and written like the others."
      wide
    >
      <form noValidate className="grid gap-3.5" onSubmit={(e) => void handleSubmit(submit)(e)}>
        <div className="grid grid-cols-3 gap-3.5">
          {text('Name', 'name')}
          {text('Word on the right side', 'rs')}
          {text('Word on the wrong side', 'ws', 'left empty: the same')}
        </div>
        <div className="grid grid-cols-4 gap-3.5">
          {text('Takes (loops)', 'takes')}
          {text('Makes (loops)', 'makes')}
          {text('Covers (columns)', 'span', 'left empty: as it makes')}
          <Field label="Shows on the right side">
            {(props) => (
              <Select {...props} {...register('face')}>
                <option value="knit">knit</option>
                <option value="purl">purl</option>
              </Select>
            )}
          </Field>
        </div>
        <div className="grid grid-cols-2 gap-3.5">
          {text('How it is worked on the right side', 'rsSteps')}
          {text('How it is worked on the wrong side', 'wsSteps')}
        </div>
        <Field
          label="In a mirror it is"
          hint="Mirroring, and words for a left-handed knitter, need it of a stitch that is not the same from both sides."
        >
          {(props) => (
            <Select {...props} {...register('mirror')}>
              <option value="">itself</option>
              {chart.own.map((o) => (
                <option key={o.id} value={o.id}>
                  {o.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <fieldset>
          <legend className="text-[13px] text-slate">Symbol, of one to three marks</legend>
          <div className="mt-1 flex items-center gap-1.5">
            <ToggleGroup.Root
              type="multiple"
              aria-label="Marks"
              value={marks}
              // A fourth mark takes the place of the first.
              onValueChange={(chosen) => setMarks((chosen as OwnMark[]).slice(-3))}
              className="flex flex-wrap gap-1.5"
            >
              {OWN_MARKS.map((mark) => (
                <ToggleGroup.Item
                  key={mark}
                  value={mark}
                  className="h-8 rounded-sm border border-slate/80 bg-chalk px-2 text-[13px] aria-pressed:border-peat aria-pressed:bg-peat aria-pressed:text-chalk"
                >
                  {mark}
                </ToggleGroup.Item>
              ))}
            </ToggleGroup.Root>
            <span className="ml-auto" aria-label="The symbol">
              {shown.success && (
                <StitchDrawing stitch={shown.data.id} chart={{ own: [shown.data] }} height={34} most={160} />
              )}
            </span>
          </div>
        </fieldset>
        {error && (
          <p role="alert" className="text-madder">
            {error}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={() => onOpenChange(false)}>Cancel</Button>
          <Button tone="main" type="submit">
            Add it
          </Button>
        </div>
      </form>
    </SheetDialog>
  );
}
