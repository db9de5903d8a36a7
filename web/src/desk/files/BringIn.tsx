import {
  chartName,
  counted,
  cutText,
  FLAT,
  KINDS,
  LIMITS,
  readDesign,
  startChart,
  startDesign,
  stepsBetween,
  stepsFromTables,
  type Design,
} from '@cordelina/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { newId } from '../../sync/newId.js';
import { Button } from '../../ui/Button.js';
import { Check } from '../../ui/Field.js';
import { SheetDialog } from '../../ui/Sheet.js';
import { filesLink } from '../../workers/links.js';
import { Stopped } from '../../workers/link.js';
import type { FileTaken } from '../../workers/files.worker.js';
import { layDesigns } from '../designs.js';
import { giveToTrace, isPicture } from './to-trace.js';
import { makeIn, onBench } from '../state/editing.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';

/** A picture of a chart, or a PDF with one: it is traced on the bench. */
interface PictureTaken {
  format: 'picture';
  file: File;
}
type Taken = FileTaken | PictureTaken;

/** A file, and what it turned out to be. */
interface Looked {
  key: string;
  name: string;
  taken: Taken | null;
}

/** Faults and notes that are shown of one file; more are counted. */
const SHOWN = 8;
/** So many files are looked at together. */
const MOST_FILES = 2000;
/** A chart that is begun for a picture, before it is made as large as the picture needs. */
const BEGUN = { columns: 8, rows: 8 } as const;

/** Looks into files one after the other, those inside of zips too. */
function useLooked(files: readonly File[]): { looked: readonly Looked[]; isDone: boolean; stop: () => void } {
  const [looked, setLooked] = useState<readonly Looked[]>([]);
  const [isDone, setDone] = useState(false);
  const stop = useRef<() => void>(() => undefined);
  useEffect(() => {
    const link = filesLink();
    let isOver = false;
    stop.current = () => {
      isOver = true;
      link.close();
      setDone(true);
    };
    const tell = (one: Looked) =>
      !isOver && setLooked((all) => [...all.filter(({ key }) => key !== one.key), one]);
    const look = async () => {
      let count = 0;
      for (const [i, file] of files.entries()) {
        if (isPicture(file)) {
          tell({ key: `${i}`, name: file.name, taken: { format: 'picture', file } });
          continue;
        }
        const bytes = new Uint8Array(await file.arrayBuffer());
        const { inside, problem } = await link.ask((worker) => worker.open(bytes, file.name));
        if (problem !== null) {
          tell({ key: `${i}`, name: file.name, taken: { problem } });
          continue;
        }
        for (const [k, one] of inside.entries()) {
          if (isOver || ++count > MOST_FILES) return;
          const at = { key: `${i} ${k}`, name: one.name };
          tell({ ...at, taken: null });
          const { taken } = await link.ask((worker) => worker.read(one.bytes, one.name, newId()));
          tell({ ...at, taken });
        }
      }
    };
    look().then(
      () => !isOver && setDone(true),
      (error: unknown) => {
        if (!(error instanceof Stopped)) throw error;
      },
    );
    return () => {
      isOver = true;
      link.close();
    };
  }, [files]);
  return { looked, isDone, stop: () => stop.current() };
}

const designIn = (taken: Taken | null): Design | null => (taken && 'design' in taken ? taken.design : null);

/** What a design is made of, in a line. */
const told = (design: Design): string =>
  design.charts.length === 1
    ? `one chart, ${design.charts[0]!.width} × ${design.charts[0]!.rows.length}`
    : `${counted(design.charts.length, 'chart')}: ${design.charts
        .slice(0, 4)
        .map((chart) => `${chartName(design, chart)} ${chart.width} × ${chart.rows.length}`)
        .join(', ')}${design.charts.length > 4 ? ' …' : ''}`;

const FORMAT_TOLD = { json: 'document', xlsx: 'workbook', csv: 'table' } as const;

/**
 * What files give, before any of it is taken: as designs of their own; or, with a design open, back into that. Nothing stored is
 * written over, and all of it is taken back at once.
 */
export function BringIn({
  files,
  isOpen = false,
  onClose,
}: {
  files: readonly File[];
  /** Whether a design is open that a file may be brought back into. */
  isOpen?: boolean;
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const box = useAppSelector(onBench);
  const { looked, isDone, stop } = useLooked(files);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const designs = looked.flatMap(({ key, taken }) => {
    const design = designIn(taken);
    return design && !left.has(key) ? [design] : [];
  });
  const words = looked.flatMap(({ taken }) =>
    taken && 'format' in taken && taken.format === 'words' ? [taken.text] : [],
  );

  const pictures = looked.flatMap(({ taken }) =>
    taken && 'format' in taken && taken.format === 'picture' ? [taken.file] : [],
  );

  const only = looked.length === 1 && isDone ? looked[0]!.taken : null;
  const open = isOpen ? (box?.document ?? null) : null;
  const back = useMemo(() => {
    if (!open || !only || !('design' in only) || !only.design) return null;
    // Read in another thread: its stitches are made this one's own.
    const read = { ...only, design: readDesign(only.design) };
    const steps =
      read.format === 'json'
        ? stepsBetween(open, { ...read.design, id: open.id })
        : stepsFromTables(open, read);
    return { steps, places: [...new Set(steps.map((step) => KINDS.design.placeOf(step, open)[1]))] };
  }, [open, only]);

  const asNew = async () => {
    const ids = await dispatch(layDesigns(designs.map((design) => readDesign(design))));
    if (!ids) return;
    onClose();
    if (ids.length === 1) void navigate(`/designs/${ids[0]!}`);
  };
  /** The first picture is laid under the chart that is open, or under one begun for it. */
  const trace = async () => {
    const [file] = pictures;
    if (!file) return;
    let id = open?.id;
    if (!id) {
      const title = cutText(file.name.replace(/\.[^.]*$/, ''), LIMITS.title) || 'Traced';
      const chart = startChart({ ...BEGUN, construction: FLAT.id, ground: 'k' });
      id = (await dispatch(layDesigns([startDesign(newId(), title, chart)])))?.[0];
      if (!id) return;
    }
    giveToTrace(file);
    onClose();
    void navigate(`/designs/${id}`);
  };
  const bringBack = () => {
    if (!box || !back) return;
    dispatch(
      makeIn(box, { id: newId(), label: `bring back ${looked[0]!.name}`.slice(0, 80), steps: back.steps }),
    );
    onClose();
  };
  return (
    <SheetDialog
      open
      onOpenChange={(now) => !now && onClose()}
      title="Bring in"
      note={
        open
          ? `Into “${open.title}”, or as a design of its own. One undo takes it back.`
          : 'Each becomes a design of its own; what is in the workroom stays as it is.'
      }
      wide
    >
      <ul aria-label="Files" className="max-h-[46vh] divide-y divide-rule overflow-auto border-y border-rule">
        {looked.map(({ key, name, taken }) => (
          <li key={key} className="py-2.5">
            <FileLine
              name={name}
              taken={taken}
              isTaken={!left.has(key)}
              onTake={
                looked.length > 1
                  ? (take) =>
                      setLeft((now) => new Set(take ? [...now].filter((one) => one !== key) : [...now, key]))
                  : null
              }
            />
          </li>
        ))}
      </ul>
      {!isDone && (
        <p role="status" className="mt-3 text-[14px] text-slate">
          Looking into {counted(files.length, 'file')} …{' '}
          <button type="button" className="underline" onClick={stop}>
            Stop
          </button>
        </p>
      )}
      {back && (
        <p className="mt-3 text-[14px]">
          {back.steps.length === 0
            ? 'It is as this design is: there is nothing to bring back.'
            : `Brought back, it changes ${counted(back.places.length, 'place')}: ${back.places.slice(0, 6).join(', ')}${back.places.length > 6 ? ' …' : ''}.`}
        </p>
      )}
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        {words.length > 0 && (
          <Button
            onClick={() => {
              onClose();
              void navigate('/import', { state: { words: words.join('\n\n') } });
            }}
          >
            Read {words.length === 1 ? 'the words' : `${words.length} texts`} in Import
          </Button>
        )}
        {pictures.length > 0 && (
          <Button tone={designs.length ? undefined : 'main'} disabled={!isDone} onClick={() => void trace()}>
            {open ? 'Trace it under this chart' : 'Trace it on a new chart'}
          </Button>
        )}
        {(designs.length > 0 || !pictures.length) && (
          <Button
            tone={back && back.steps.length > 0 ? undefined : 'main'}
            disabled={!designs.length || !isDone}
            onClick={() => void asNew()}
          >
            {designs.length > 1 ? `Bring in ${designs.length} designs` : 'Bring in as a new design'}
          </Button>
        )}
        {back && back.steps.length > 0 && (
          <Button tone="main" onClick={bringBack}>
            Bring back into this design
          </Button>
        )}
      </div>
    </SheetDialog>
  );
}

/** One file: what it is, what will be taken of it, what not and why. */
function FileLine({
  name,
  taken,
  isTaken,
  onTake,
}: {
  name: string;
  taken: Taken | null;
  isTaken: boolean;
  onTake: ((take: boolean) => void) | null;
}) {
  const design = designIn(taken);
  const heading = <span className="font-mono text-[13.5px] break-all">{name}</span>;
  if (!taken)
    return (
      <>
        {heading} <span className="text-slate">…</span>
      </>
    );
  if ('problem' in taken)
    return (
      <>
        {heading}
        <p className="text-[14px] text-madder">{taken.problem}</p>
      </>
    );
  if (taken.format === 'picture')
    return (
      <>
        {heading}
        <p className="text-[14px]">
          A picture: the chart in it is traced on the bench, row by row. The picture itself stays in this
          browser.
        </p>
      </>
    );
  if (taken.format === 'words')
    return (
      <>
        {heading}
        <p className="text-[14px]">
          Words of {counted(taken.text.split('\n').length, 'line')}: Import reads them.
        </p>
      </>
    );
  const { faults, notes, format } = taken;
  return (
    <>
      {design && onTake ? (
        <Check label={`${design.title} (${name})`} checked={isTaken} onChange={onTake} />
      ) : (
        heading
      )}
      <p className="text-[14px]">
        {design ? (
          <>
            A {FORMAT_TOLD[format]}: <strong>{design.title}</strong>, {told(design)}.
          </>
        ) : (
          <>A {FORMAT_TOLD[format]} that cannot be taken:</>
        )}
      </p>
      <CellList told={faults} tone="text-madder" what="fault" />
      <CellList told={notes} tone="text-slate" what="note" />
    </>
  );
}

function CellList({
  told,
  tone,
  what,
}: {
  told: readonly { sheet: string; cell: string; message: string }[];
  tone: string;
  what: string;
}) {
  if (!told.length) return null;
  return (
    <ul className={`mt-1 grid gap-0.5 text-[14px] ${tone}`}>
      {told.slice(0, SHOWN).map(({ sheet, cell, message }, i) => (
        <li key={i}>
          <span className="font-mono text-[13px]">
            {sheet} {cell}
          </span>{' '}
          {message}
        </li>
      ))}
      {told.length > SHOWN && <li>and {counted(told.length - SHOWN, `more ${what}`)}</li>}
    </ul>
  );
}
