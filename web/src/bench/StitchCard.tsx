import {
  namingOf,
  bookOf,
  checkNames,
  CrossingNameSchema,
  crossingId,
  isCrossing,
  replaceEverywhere,
  schoolName,
  spanOf,
  stitchId,
  turnCrossing,
  flipCrossing,
  type Chart,
  type Crossing,
  type Settings,
  type Stitch,
} from '@cordelina/core';
import { MoreVertical } from 'lucide-react';
import { Popover, Toolbar as Bar } from 'radix-ui';
import { useState } from 'react';
import { edit, editHead } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { PopSheet } from '../ui/Pop.js';
import { Field, Input, Select } from '../ui/Field.js';
import { PALETTE } from '@cordelina/core';
import { stitchName } from '../desk/describe.js';

interface Props {
  stitch: Stitch;
  count: number;
  chart: Chart;
  settings: Settings;
  /** The stitches in reach, any of the same size of which may take its place. */
  others: readonly Stitch[];
}

/** What may be done with one stitch wherever it is used: its name, its colour, another in its place. */
export function StitchCard({ stitch, count, chart, settings, others }: Props) {
  const naming = namingOf(settings, chart);
  const name = stitchName(stitch, chart, naming);
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Bar.Button
          aria-label={`More for ${name}`}
          className="grid h-8 w-6 shrink-0 place-items-center rounded-sm text-slate hover:bg-wash"
        >
          <MoreVertical size={14} aria-hidden />
        </Bar.Button>
      </Popover.Trigger>
      <PopSheet label={name} side="right" className="grid w-[272px] gap-3.5">
        {isCrossing(stitch) && <NameField crossing={stitch} chart={chart} settings={settings} />}
        {isCrossing(stitch) && <Colours crossing={stitch} settings={settings} />}
        <Replace stitch={stitch} count={count} chart={chart} settings={settings} others={others} />
      </PopSheet>
    </Popover.Root>
  );
}

function NameField({ crossing, chart, settings }: { crossing: Crossing; chart: Chart; settings: Settings }) {
  const dispatch = useAppDispatch();
  const id = crossingId(crossing);
  const [text, setText] = useState(settings.names[id] ?? '');
  const [error, setError] = useState<string>();
  const commit = () => {
    const said = text.trim();
    const { [id]: _old, ...rest } = settings.names;
    const names = said ? { ...rest, [id]: said } : rest;
    if (said) {
      const parsed = CrossingNameSchema.safeParse(said);
      if (!parsed.success) return setError(parsed.error.issues[0]!.message);
      const clash = checkNames(chart, { ...settings, names }).find((f) => f.message.includes(`"${said}"`));
      if (clash) return setError(clash.message);
    }
    setError(undefined);
    dispatch(editHead('name a crossing', { settings: { ...settings, names } }));
  };
  return (
    <Field
      label="Your name for it"
      error={error}
      hint={`Left empty: ${schoolName(crossing, settings.school, namingOf(settings, chart)) ?? 'spelled out'}`}
    >
      {(props) => (
        <Input
          {...props}
          value={text}
          maxLength={40}
          onChange={(e) => setText(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => e.key === 'Enter' && commit()}
        />
      )}
    </Field>
  );
}

function Colours({ crossing, settings }: { crossing: Crossing; settings: Settings }) {
  const dispatch = useAppDispatch();
  const id = crossingId(crossing);
  const set = (place: number | undefined) => {
    const { [id]: _old, ...rest } = settings.colours;
    const colours = place === undefined ? rest : { ...rest, [id]: place };
    dispatch(editHead('colour a crossing', { settings: { ...settings, colours } }));
  };
  const swatch =
    'grid h-7 w-7 place-items-center rounded-sm border border-slate/80 text-[12px] font-semibold aria-checked:outline-2 aria-checked:outline-offset-1 aria-checked:outline-peat';
  return (
    <div role="radiogroup" aria-label="Colour">
      <p className="text-[13px] text-slate">Colour, with its mark</p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        <button
          type="button"
          role="radio"
          aria-checked={settings.colours[id] === undefined}
          title="by its lean"
          onClick={() => set(undefined)}
          className={`${swatch} bg-chalk`}
        >
          –
        </button>
        {PALETTE.map(({ name, colour, mark }, place) => (
          <button
            key={name}
            type="button"
            role="radio"
            aria-label={name}
            aria-checked={settings.colours[id] === place}
            title={name}
            onClick={() => set(place)}
            style={{ background: colour }}
            className={swatch}
          >
            {mark}
          </button>
        ))}
      </div>
    </div>
  );
}

function Replace({ stitch, count, chart, settings, others }: Props) {
  const dispatch = useAppDispatch();
  const book = bookOf(chart);
  const naming = namingOf(settings, chart);
  const related = isCrossing(stitch)
    ? [turnCrossing(stitch), flipCrossing(stitch)]
    : ['k', 'p', 'ktbl', 'ptbl', 'slyb'];
  const { takes, makes } = book.facts(stitch);
  const choices = new Map<string, Stitch>();
  for (const s of [...others, ...related]) {
    const same =
      spanOf(s, book) === spanOf(stitch, book) &&
      book.facts(s).takes === takes &&
      book.facts(s).makes === makes;
    if (same && stitchId(s) !== stitchId(stitch)) choices.set(stitchId(s), s);
  }
  const [chosen, setChosen] = useState('');
  if (!count || !choices.size) return null;
  const target = choices.get(chosen);
  return (
    <Field label={count === 1 ? 'Put in its place' : `Put in the place of all ${count}`}>
      {(props) => (
        <div className="flex gap-2">
          <Select {...props} value={chosen} onChange={(e) => setChosen(e.target.value)}>
            <option value="">choose …</option>
            {[...choices].map(([id, s]) => (
              <option key={id} value={id}>
                {stitchName(s, chart, naming)}
              </option>
            ))}
          </Select>
          <Button
            disabled={!target}
            onClick={() =>
              target &&
              dispatch(
                edit(`replace ${stitchName(stitch, chart, naming)}`, (c) =>
                  replaceEverywhere(c, stitch, target),
                ),
              )
            }
          >
            Replace
          </Button>
        </div>
      )}
    </Field>
  );
}
