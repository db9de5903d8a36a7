import { WayOptions } from '../ui/Ways.js';
import {
  FLAT,
  CLOTH_KINDS,
  EditError,
  INKS,
  inHouse,
  startDesign,
  startOn,
  STARTING_CLOTHS,
  type Chart,
  WaySchema,
  hasSetting,
  LIMITS,
  numberTyped,
} from '@cordelina/core';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm, useWatch } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { z } from 'zod';
import { studioIn } from '../desk/state/studio.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';
import { MotifShelf } from '../desk/motifs/MotifShelf.js';
import type { Manner } from '../ui/paint.js';
import { makeDesign } from '../desk/designs.js';
import { newId } from '../sync/newId.js';

const size = (what: string, most: number) =>
  z
    .string()
    .transform(numberTyped)
    .pipe(
      z
        .number({ error: `How many ${what}? A whole number.` })
        .int(`How many ${what}? A whole number.`)
        .min(1, `At least one ${what.slice(0, -1)}.`)
        .max(most, `At most ${most} ${what}.`),
    );

const Form = z.object({
  title: z.string().trim().min(1, 'A design needs a title.').max(LIMITS.title),
  columns: size('columns', LIMITS.columns),
  rows: size('rows', LIMITS.rows),
  construction: WaySchema,
  firstRow: z.enum(['RS', 'WS']),
  cloth: z.enum([...STARTING_CLOTHS, 'own']),
  own: z.string().max(4000, 'That is more than a ground: chart it, or read it from its words.'),
});

/** A new design from a starting cloth. */
export function NewDesign({
  open,
  from: begun,
  onOpenChange,
}: {
  open: boolean;
  from: 'cloth' | 'motif';
  onOpenChange: (open: boolean) => void;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const house = useAppSelector((s) => studioIn(s).house);
  const make = async (title: string, chart: Chart) => {
    const id = await dispatch(makeDesign(inHouse(startDesign(newId(), title, chart), house)));
    if (id) void navigate(`/designs/${id}`);
  };
  const [from, setFrom] = useState(begun);
  return (
    <SheetDialog open={open} onOpenChange={onOpenChange} title="New design" wide={from === 'motif'}>
      {from === 'cloth' ? <FromCloth onMake={make} /> : <FromMotif onMake={make} />}
      <p className="mt-4 border-t border-rule pt-3 text-[14px] text-slate">
        <button
          type="button"
          className="text-peat underline underline-offset-2"
          onClick={() => setFrom(from === 'cloth' ? 'motif' : 'cloth')}
        >
          {from === 'cloth' ? 'Begin with a motif' : 'Begin with an empty cloth'}
        </button>
        . Is it written down already?{' '}
        <Link to="/import" className="text-peat underline underline-offset-2">
          Read it from its words
        </Link>
      </p>
    </SheetDialog>
  );
}

const MANNER: Manner = { plain: 'empty', cords: true, grid: true, colours: {}, inks: INKS };

/** A design that begins with a motif, under its name. */
function FromMotif({ onMake }: { onMake: Make }) {
  return (
    <MotifShelf
      manner={MANNER}
      actions={(chosen) => (
        <Button
          tone="main"
          disabled={!chosen}
          onClick={() => chosen && void onMake(chosen.name, { ...chosen.chart, name: '', part: 'piece' })}
        >
          Lay it on the bench
        </Button>
      )}
    />
  );
}

type Make = (title: string, chart: Chart) => Promise<void>;

function FromCloth({ onMake }: { onMake: Make }) {
  const { register, handleSubmit, formState, setError, control } = useForm<
    z.input<typeof Form>,
    unknown,
    z.output<typeof Form>
  >({
    resolver: zodResolver(Form),
    defaultValues: {
      title: '',
      columns: '24',
      rows: '16',
      construction: FLAT.id,
      firstRow: 'RS',
      cloth: 'reverse',
      own: '',
    },
  });
  const { errors } = formState;
  const [construction, cloth] = useWatch({ control, name: ['construction', 'cloth'] });
  const lay = async ({ title, ...start }: z.output<typeof Form>): Promise<void> => {
    let chart: Chart;
    try {
      chart = startOn(start);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      return setError('own', { message: error.message });
    }
    await onMake(title, chart);
  };
  return (
    <form noValidate className="grid gap-3.5" onSubmit={(e) => void handleSubmit(lay)(e)}>
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
              <WayOptions />
            </Select>
          )}
        </Field>
        <Field label="Ground">
          {(props) => (
            <Select {...props} {...register('cloth')}>
              {STARTING_CLOTHS.map((kind) => (
                <option key={kind} value={kind}>
                  {CLOTH_KINDS[kind].name}
                </option>
              ))}
              <option value="own">rows of your own</option>
            </Select>
          )}
        </Field>
        {hasSetting(construction, 'firstRow') && (
          <Field label="Row 1 is worked on the">
            {(props) => (
              <Select {...props} {...register('firstRow')}>
                <option value="RS">right side</option>
                <option value="WS">wrong side</option>
              </Select>
            )}
          </Field>
        )}
      </div>
      {cloth === 'own' && (
        <Field
          label="Rows of the ground, one on a line, over and over"
          hint="*k1, p1; rep from * to end"
          error={errors.own?.message}
        >
          {(props) => (
            <textarea
              {...props}
              {...register('own')}
              rows={4}
              className="w-full rounded-sm border border-slate/40 bg-chalk px-2 py-1.5 font-mono text-[14px]"
            />
          )}
        </Field>
      )}
      <Button tone="main" type="submit" className="justify-self-end" disabled={formState.isSubmitting}>
        Lay it on the bench
      </Button>
    </form>
  );
}
