import { StepMisfit, type Change, type Chart, type Kind } from '@cordelina/core';
import { useMemo, useState } from 'react';
import { choose, type Said } from '../../sync/history.js';
import { useAppDispatch } from '../state/index.js';
import { kindOf, type AnyOutbox, type Document } from '../../sync/outbox.js';
import { Button } from '../../ui/Button.js';
import { ChartPicture } from '../../ui/ChartPicture.js';
import { useNarrow } from '../../ui/useNarrow.js';
import { SheetDialog } from '../../ui/Sheet.js';

const CELL = 20;
const MOST_COLUMNS = { wide: 14, narrow: 7 } as const;

/** Words for what is set at a path. */
export type Telling = (path: readonly string[], value: unknown) => string;

/** What was done here beside what was done elsewhere, row by row or field by field: for each one is chosen. */
export function Choices({
  box,
  tell = inWords,
  onSaid,
  onClose,
}: {
  box: AnyOutbox;
  tell?: Telling;
  /** What came of it, where that is to be said. */
  onSaid: (said: Said) => void;
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const [mine, setMine] = useState<ReadonlySet<string>>(new Set());
  const { choices, document } = box;
  const decide = () => {
    onSaid(dispatch(choose(box, [...mine])));
    onClose();
  };
  return (
    <SheetDialog
      open
      wide
      onOpenChange={(open) => !open && onClose()}
      title="Which is to stand?"
      note="Both are kept until you decide. What you take from here can be undone."
    >
      <div className="mb-3 flex gap-2">
        <Button onClick={() => setMine(new Set())}>All from elsewhere</Button>
        <Button onClick={() => setMine(new Set(choices.map((c) => c.id)))}>All from here</Button>
      </div>
      <ul className="max-h-[52vh] overflow-auto border-y border-rule">
        {choices.map((choice) => (
          <Choice
            key={choice.id}
            choice={choice}
            document={document}
            kind={kindOf(box)}
            tell={tell}
            isMine={mine.has(choice.id)}
            onChoose={(here) => {
              const now = new Set(mine);
              if (here) now.add(choice.id);
              else now.delete(choice.id);
              setMine(now);
            }}
          />
        ))}
      </ul>
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Later</Button>
        <Button tone="main" onClick={decide}>
          {mine.size ? `Take ${mine.size} from here` : 'Leave all as saved elsewhere'}
        </Button>
      </div>
    </SheetDialog>
  );
}

function Choice({
  choice,
  document,
  kind,
  tell,
  isMine,
  onChoose,
}: {
  choice: Change;
  document: Document;
  kind: Kind<Document>;
  tell: Telling;
  isMine: boolean;
  onChoose: (mine: boolean) => void;
}) {
  const after = useMemo(() => {
    try {
      return kind.apply(document, choice.steps);
    } catch (error) {
      if (!(error instanceof StepMisfit)) throw error;
      return null;
    }
  }, [kind, document, choice]);
  return (
    <li className="border-b border-rule py-2 last:border-b-0">
      <fieldset className="grid grid-cols-[110px_1fr_1fr] items-center gap-3 max-md:grid-cols-2 max-md:gap-x-1.5 max-md:gap-y-1">
        <legend className="sr-only">{choice.label}</legend>
        <span className="font-serif text-[16px] max-md:col-span-2" aria-hidden>
          {choice.label}
        </span>
        {(
          [
            ['from elsewhere', document, false],
            ['from here', after, true],
          ] as const
        ).map(([name, state, here]) => (
          <label
            key={name}
            className="grid min-w-0 cursor-pointer gap-1 rounded-sm border border-transparent p-1.5 has-checked:border-peat has-checked:bg-wash"
          >
            <span className="flex items-center gap-2 text-[13.5px]">
              <input
                type="radio"
                name={choice.id}
                checked={isMine === here}
                disabled={!state}
                onChange={() => onChoose(here)}
              />
              {name}
            </span>
            {state ? <Shown choice={choice} document={state} where={name} tell={tell} /> : 'no longer fits'}
          </label>
        ))}
      </fieldset>
    </li>
  );
}

/** One side of a choice: the row around the place, or the setting in words. */
function Shown({
  choice,
  document,
  where,
  tell,
}: {
  choice: Change;
  document: Document;
  where: string;
  tell: Telling;
}) {
  const [step] = choice.steps;
  const design = 'charts' in document ? document : null;
  const cells = step?.kind === 'cells' ? step : null;
  const chart: Chart | undefined = cells
    ? design?.charts.find((c) => c.id === cells.chart)
    : step?.kind === 'charts'
      ? design?.charts[step.at]
      : undefined;
  const isNarrow = useNarrow();
  const place = useMemo(() => {
    if (!chart) return null;
    const row = cells?.row ?? 0;
    const near = Math.max(0, (cells?.column ?? 0) - 3);
    const to = Math.min(chart.width - 1, near + MOST_COLUMNS[isNarrow ? 'narrow' : 'wide'] - 1);
    const top = cells ? row : Math.min(chart.rows.length - 1, 5);
    return { columns: { from: near, to }, rows: { from: cells ? row : 0, to: top } };
  }, [chart, cells, isNarrow]);
  if (design && chart && place)
    return (
      <ChartPicture
        chart={chart}
        settings={design.settings}
        {...place}
        cell={cells ? CELL : 12}
        label={`${choice.label}, ${where}`}
      />
    );
  const path = step?.kind === 'set' ? step.path : [];
  return <span className="truncate text-[14px]">{tell(path, valueAt(document, path))}</span>;
}

function valueAt(document: Document, path: readonly string[]): unknown {
  let value: unknown = document;
  for (const key of path) {
    const held = value as Record<string, unknown> | unknown[] | null;
    value = Array.isArray(held) ? held.find((one) => (one as { id?: unknown }).id === key) : held?.[key];
  }
  return value;
}

function inWords(_path: readonly string[], value: unknown): string {
  if (value === undefined || value === null || value === '') return 'none';
  const one = (v: unknown) => (typeof v === 'string' ? v : JSON.stringify(v));
  return typeof value === 'object' ? Object.values(value).map(one).join(', ') : one(value);
}
