import { chartName, KNITTING_NAMES, type Design, type Knitting } from '@cordelina/core';
import { zodResolver } from '@hookform/resolvers/zod';
import { useContext, useMemo, useState } from 'react';
import { useForm } from 'react-hook-form';
import { Link, useNavigate } from 'react-router';
import { ProofContext } from '../desk/head/ProofContext.js';
import { habits } from '../desk/state/habits.js';
import { onBench } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { LISTED } from '../desk/state/listed.js';
import { bringBack, castOn, needles, putAway } from '../desk/state/needles.js';
import { Button } from '../ui/Button.js';
import { Field, Input, Select } from '../ui/Field.js';
import { newDevice, ownDevice, shownDevice } from './device.js';
import { jobIn, inHer } from './useJob.js';

const HANDS = [
  ['', 'as the design is written'],
  ['right', 'right-handed'],
  ['left-same-fabric', 'left-handed, the same fabric'],
  ['left-same-words', 'left-handed, the same words'],
] as const;

/** What may be cast on of a design: its piece in each size, and each of its charts. */
const offers = (design: Design): (readonly [value: string, name: string, of: Knitting['of']])[] => [
  ...(design.piece?.sizes.map(
    (size) => [`size ${size.id}`, `the piece, ${size.name}`, { size: size.id }] as const,
  ) ?? []),
  ...design.charts.map((c) => [`chart ${c.id}`, chartName(design, c), { chart: c.id }] as const),
];

/** Larger charts are not tried on the beds for a list to choose from. */
const MOST_TRIED = 20_000;

/** The charts that two beds can knit, by their lists. */
function bedsOffers(design: Design): ReturnType<typeof offers> {
  return design.charts.flatMap((c) =>
    c.width * c.rows.length > MOST_TRIED
      ? []
      : (['basic', 'embossed'] as const).flatMap((method) => {
          const of = { machine: c.id, method };
          if (typeof jobIn(design, of) === 'string') return [];
          const how = method === 'embossed' ? 'ropes before a whole ground' : 'ropes among the ground';
          return [[`${method} ${c.id}`, `${chartName(design, c)}, on two beds, ${how}`, of] as const];
        }),
  );
}

/** Whoever knits the design, where each is, and casting on anew. */
export function CastOnPane({ design }: { design: Design }) {
  const dispatch = useAppDispatch();
  const all = useAppSelector(LISTED.knitting.all);
  const { state } = useAppSelector((s) => s.listed.knitting);
  const message = useAppSelector((s) => s.needles.message);
  const mine = all.filter(({ document }) => document.design === design.id);
  return (
    <div className="grid max-w-[920px] gap-6">
      {message && (
        <p role="status" className="flex items-center gap-2 bg-wash px-3 py-2">
          <span className="mr-auto">{message}</span>
          {message.endsWith('was put away.') && (
            <Button onClick={() => dispatch(bringBack())}>Bring it back</Button>
          )}
          <Button onClick={() => dispatch(needles.told(null))}>Good</Button>
        </p>
      )}
      <section className="grid gap-2">
        <h2 className="text-[20px] font-semibold">On the needles</h2>
        {mine.length === 0 && (
          <p className="text-slate">
            {state === 'loading'
              ? 'Looking …'
              : 'Nobody knits this yet. Cast on below: the pattern is kept as it is now, and the place on every device.'}
          </p>
        )}
        <ul className="grid gap-2">
          {mine.map(({ document }) => (
            <Piece key={document.id} knitting={document} design={design} />
          ))}
        </ul>
      </section>
      <CastOnForm design={design} />
    </div>
  );
}

function Piece({ knitting, design }: { knitting: Knitting; design: Design }) {
  const dispatch = useAppDispatch();
  const { id, name, knitter, place, of } = knitting;
  const what = offers(design).find(([, , offered]) => JSON.stringify(offered) === JSON.stringify(of))?.[1];
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border border-rule bg-chalk px-4 py-3">
      <div className="mr-auto min-w-0">
        <p className="truncate text-[17px] font-semibold">{name}</p>
        <p className="text-[14px] text-slate">
          {[
            knitter,
            what,
            `${place.row} ${place.row === 1 ? 'row' : 'rows'} worked, last on the ${shownDevice(place.device)}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </p>
      </div>
      <Button className="max-md:min-h-11" onClick={() => dispatch(putAway(id))}>
        Put away
      </Button>
      <Link
        to={`/knit/${id}`}
        className="grid h-8 place-items-center rounded-sm bg-peat px-4 text-[14px] text-chalk hover:bg-slate max-md:h-11"
      >
        Go on knitting
      </Link>
    </li>
  );
}

function CastOnForm({ design }: { design: Design }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { knitter, device } = useAppSelector((s) => s.habits);
  const base = useAppSelector((s) => onBench(s)?.base ?? 0);
  const { proved } = useContext(ProofContext);
  const [problem, setProblem] = useState<string | null>(null);
  const options = useMemo(() => [...offers(design), ...bedsOffers(design)], [design]);
  const { register, handleSubmit, formState } = useForm({
    resolver: zodResolver(KNITTING_NAMES),
    defaultValues: {
      what: options[0]![0],
      name: design.title,
      knitter,
      hand: '' as (typeof HANDS)[number][0],
      device: shownDevice(device) || shownDevice(newDevice()),
    },
  });
  const { errors, isSubmitting } = formState;
  const begin = handleSubmit(async ({ what, name, knitter: who, hand, device: called }) => {
    const of = options.find(([value]) => value === what)![2];
    const own = hand === '' ? null : hand;
    const job = jobIn(inHer(design, own), of);
    if (typeof job === 'string') return setProblem(job);
    const named = shownDevice(device) === called && device ? device : newDevice().replace(/^[^#]*/, called);
    dispatch(habits.changed({ knitter: who, device: named }));
    const id = await dispatch(
      castOn({ design, version: base, of, name, knitter: who, hand: own, device: ownDevice(named) }),
    );
    void navigate(`/knit/${id}`);
  });
  return (
    <form
      className="grid gap-3 border border-rule bg-chalk p-4"
      onSubmit={(e) => void begin(e)}
      aria-label="Cast on"
    >
      <h2 className="text-[20px] font-semibold">Cast on</h2>
      {proved && !proved.checked && (
        <p className="text-madder">
          These words are not proved: see the findings on the Bench before you knit from them.
        </p>
      )}
      <div className="grid grid-cols-2 gap-3 max-md:grid-cols-1">
        <Field label="What">
          {(props) => (
            <Select {...props} {...register('what')}>
              {options.map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label="Called" error={errors.name?.message} hint="Such as: left mitten, second sleeve">
          {(props) => <Input {...props} {...register('name')} maxLength={120} />}
        </Field>
        <Field label="Who knits" error={errors.knitter?.message}>
          {(props) => <Input {...props} {...register('knitter')} maxLength={80} autoComplete="name" />}
        </Field>
        <Field label="Hands">
          {(props) => (
            <Select {...props} {...register('hand')}>
              {HANDS.map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Field label="This device is called" error={errors.device?.message}>
          {(props) => <Input {...props} {...register('device')} maxLength={40} />}
        </Field>
      </div>
      {problem && (
        <p role="alert" className="text-madder">
          {problem}
        </p>
      )}
      <p className="text-[13px] text-slate">
        The pattern is kept as it is now; when the design changes you are told, and choose. Work a swatch
        first: a gauge is never guaranteed.
      </p>
      <Button
        type="submit"
        tone="main"
        className="justify-self-start max-md:min-h-11"
        disabled={isSubmitting}
      >
        Cast on
      </Button>
    </form>
  );
}
