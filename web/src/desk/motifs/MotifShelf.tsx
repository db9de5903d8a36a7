import {
  MOST_TIMES,
  MOTIFS,
  motifChart,
  motifSize,
  ownMotifChart,
  saidSchema,
  usualOf,
  type Chart,
  type MotifRule,
  type OwnMotif,
  type Said,
  numberTyped,
} from '@cordelina/core';
import { Trash2 } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { changeStudio, studioIn, without } from '../state/studio.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';
import { IconButton } from '../../ui/Button.js';
import { ChartSvg } from '../../ui/ChartSvg.js';
import { Choose, Field, Input } from '../../ui/Field.js';
import type { Manner } from '../../ui/paint.js';
import { Thumbnail } from '../../ui/fabric/Thumbnail.js';

/** A motif as it has been chosen: what it is called, as a chart of its own, and how it is woven or what it holds. */
export interface Chosen {
  name: string;
  chart: Chart;
  motif: { rule: MotifRule; said: Said; times: number } | { own: OwnMotif };
}

interface Shelved {
  id: string;
  name: string;
  about: string;
  rule?: MotifRule;
  own?: OwnMotif;
}

const usualCharts = new Map<string, Chart>();
function usualChart(rule: MotifRule): Chart {
  let chart = usualCharts.get(rule.id);
  if (!chart) usualCharts.set(rule.id, (chart = motifChart(rule, usualOf(rule))));
  return chart;
}

const chartOf = ({ rule, own }: Shelved): Chart => (rule ? usualChart(rule) : ownMotifChart(own!));

/** The shelf: traditional ropes built to measure, and the studio's own motifs. `actions` is what can be done with one. */
export function MotifShelf({
  manner,
  actions,
}: {
  manner: Manner;
  actions: (chosen: Chosen | null) => ReactNode;
}) {
  const dispatch = useAppDispatch();
  const own = useAppSelector((s) => studioIn(s).motifs);
  const [sought, setSought] = useState('');
  const [at, setAt] = useState(MOTIFS[0]!.id);
  const [told, setTold] = useState<Told>({});
  const shelf = useMemo<Shelved[]>(
    () => [
      ...Object.entries(own)
        .map(([id, motif]) => ({ id, name: motif.name, about: 'Your own', own: motif }))
        .sort((a, b) => a.name.localeCompare(b.name)),
      ...MOTIFS.map((rule) => ({ id: rule.id, name: rule.name, about: rule.about, rule })),
    ],
    [own],
  );
  const words = sought.trim().toLowerCase();
  const found = shelf.filter(({ name, about }) => `${name} ${about}`.toLowerCase().includes(words));
  const here = found.find(({ id }) => id === at) ?? found[0];
  const { entry, chosen, errors } = choose(here, told);
  const tell = (key: string, value: string) =>
    here && setTold({ ...told, [here.id]: { ...entry, [key]: value } });
  return (
    <div className="grid grid-cols-[248px_1fr] gap-6 max-md:grid-cols-1">
      <div className="flex min-h-0 flex-col">
        <Input
          aria-label="Seek a motif"
          placeholder="Seek a motif"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
        <ul
          aria-label="Motifs"
          className="mt-2 max-h-[392px] min-h-0 flex-1 overflow-auto border border-rule max-md:max-h-[180px]"
        >
          {found.map((one) => (
            <li key={one.id} className="flex items-center border-b border-rule last:border-b-0">
              <button
                type="button"
                aria-pressed={one === here}
                onClick={() => setAt(one.id)}
                className="flex min-w-0 flex-1 items-center gap-3 px-2 py-1.5 text-left hover:bg-wash aria-pressed:bg-wash aria-pressed:shadow-[inset_3px_0_0_var(--peat)]"
              >
                <Thumbnail preview={chartOf(one)} width={64} height={44} stitch={5} />
                <span className="min-w-0">
                  <span className="block truncate text-[14px]">{one.name}</span>
                  {one.own && <span className="block text-[12.5px] text-slate">your own</span>}
                </span>
              </button>
              {one.own && (
                <IconButton
                  name={`Take ${one.name} off the shelf`}
                  onClick={() =>
                    void dispatch(
                      changeStudio(`${one.name} off the shelf`, (studio) => ({
                        ...studio,
                        motifs: without(studio.motifs, one.id),
                      })),
                    )
                  }
                >
                  <Trash2 size={14} aria-hidden />
                </IconButton>
              )}
            </li>
          ))}
          {!found.length && <li className="p-3 text-[14px] text-slate">No motif of that name.</li>}
        </ul>
      </div>
      {here && (
        <div className="grid min-w-0 content-start gap-4">
          <div>
            <h3 className="text-[17px] font-semibold">{here.name}</h3>
            <p className="text-slate">{here.rule ? here.rule.about : 'A piece of a chart of yours.'}</p>
          </div>
          {here.rule && (
            <div className="grid grid-cols-3 items-end gap-x-3.5 gap-y-3 max-md:grid-cols-2">
              {Object.entries(here.rule.numbers).map(([key, { label, least, most, usual }]) => (
                <Field key={key} label={`${label}, ${least}–${most}`} error={errors[key]}>
                  {(props) => (
                    <Input
                      {...props}
                      inputMode="numeric"
                      value={entry[key] ?? String(usual)}
                      onChange={(e) => tell(key, e.target.value)}
                    />
                  )}
                </Field>
              ))}
              {Object.entries(here.rule.choices).map(([key, { label, options }]) => (
                <Choose
                  key={key}
                  label={label}
                  value={entry[key] ?? options[0]![0]}
                  options={options}
                  onChange={(value) => tell(key, value)}
                />
              ))}
              <Field label={`Times upwards, 1–${MOST_TIMES}`} error={errors.times}>
                {(props) => (
                  <Input
                    {...props}
                    inputMode="numeric"
                    value={entry.times ?? '1'}
                    onChange={(e) => tell('times', e.target.value)}
                  />
                )}
              </Field>
            </div>
          )}
          <div className="grid h-[212px] place-items-center overflow-hidden border border-rule bg-chalk p-2 [&_svg]:max-h-[194px]!">
            {chosen ? (
              <ChartSvg chart={chosen.chart} manner={manner} label={`${here.name}, as it will be worked`} />
            ) : (
              <p className="text-slate">The picture comes back with numbers that can be worked.</p>
            )}
          </div>
          {chosen && (
            <p className="text-[14px]" data-testid="motif-size">
              {'rule' in chosen.motif
                ? sentence(motifSize(chosen.motif.rule.weave(chosen.motif.said)))
                : `${chosen.chart.width} stitches, ${chosen.chart.rows.length} rows.`}
            </p>
          )}
          <div className="flex flex-wrap justify-end gap-2">{actions(chosen)}</div>
        </div>
      )}
    </div>
  );
}

type Told = Readonly<Record<string, Readonly<Record<string, string>>>>;

/** A motif with what has been typed of it, and what is wrong with that by its place. */
function choose(
  here: Shelved | undefined,
  told: Told,
): { entry: Told[string]; chosen: Chosen | null; errors: Record<string, string> } {
  const entry = (here && told[here.id]) ?? {};
  if (!here) return { entry, chosen: null, errors: {} };
  const { name, rule, own } = here;
  if (!rule) return { entry, chosen: { name, chart: ownMotifChart(own!), motif: { own: own! } }, errors: {} };
  const { said, times, errors } = readTold(rule, entry);
  return {
    entry,
    chosen: said && { name, chart: motifChart(rule, said, times), motif: { rule, said, times } },
    errors,
  };
}

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

/** What has been typed of a motif, and what is wrong with it by its place. */
function readTold(
  rule: MotifRule,
  entry: Readonly<Record<string, string>>,
): { said: Said | null; times: number; errors: Record<string, string> } {
  const errors: Record<string, string> = {};
  const asked: Record<string, number | string> = {};
  for (const [key, value] of Object.entries(entry))
    if (key in rule.numbers) asked[key] = numberTyped(value);
    else if (key in rule.choices) asked[key] = value;
  const read = saidSchema(rule).safeParse(asked);
  if (!read.success) for (const { path, message } of read.error.issues) errors[String(path[0])] = message;
  const times = numberTyped(entry.times ?? '1');
  const isTimes = Number.isInteger(times) && times >= 1 && times <= MOST_TIMES;
  if (!isTimes) errors.times = `A whole number from 1 to ${MOST_TIMES}.`;
  return { said: read.success && isTimes ? read.data : null, times: isTimes ? times : 1, errors };
}
