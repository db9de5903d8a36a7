import {
  chartName,
  correctionsOf,
  counted,
  DocumentError,
  FORMATS,
  formatOf,
  PRINT_INKS,
  type Chart,
  type Design,
  type FormatId,
} from '@cordelina/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Refused, ServerAway, fetchPdf } from '../../sync/server.js';
import { Button } from '../../ui/Button.js';
import { Check, Field, Select } from '../../ui/Field.js';
import type { Asked } from '../../ui/picture-file.js';
import { fileName, saveFile } from '../../ui/save-file.js';
import { SheetDialog } from '../../ui/Sheet.js';
import { filesLink } from '../../workers/links.js';
import { Stopped } from '../../workers/link.js';
import { documentOf } from '../designs.js';
import { store } from '../state/index.js';
import { useNotes } from '../useNotes.js';
import { chartDrawing } from './chart-drawing.js';

/** Dots to an inch that a picture may be painted at. */
const DOTS = [96, 150, 300, 600] as const;
const LINE = 'grid grid-cols-[1fr_auto] items-center gap-x-4 gap-y-0.5 border-t border-rule py-2.5';

/** Whatever keeps a file from being made, as one sentence. */
function sentence(error: unknown): string | null {
  if (error instanceof Stopped) return null;
  if (error instanceof ServerAway) return 'The server is away: this file is made by it.';
  if (error instanceof Refused || error instanceof DocumentError) return error.message;
  throw error;
}

/** A design, or several, as files of an open format on the person's own disk. */
export function SaveCopy({ ids, onClose }: { ids: readonly string[]; onClose: () => void }) {
  const [only] = ids;
  return (
    <SheetDialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={ids.length === 1 ? 'Save a copy as a file' : `Save copies of ${counted(ids.length, 'design')}`}
      note={
        ids.length === 1
          ? 'What a file does not hold is said with it. The design itself stays as it is.'
          : 'One file for each design, in one zip.'
      }
      wide
    >
      {ids.length === 1 ? <One id={only!} /> : <Many ids={ids} />}
    </SheetDialog>
  );
}

/** What became of it stands at the sheet's foot, wherever it is scrolled to. */
const TOLD =
  'sticky -bottom-6 -mx-6 mt-4 -mb-6 border-t border-rule bg-chalk px-6 py-3 text-[14px] max-md:-bottom-4 max-md:-mx-4 max-md:-mb-4 max-md:px-4';

/** One worker as long as the sheet lies open. */
function useFiles() {
  const link = useRef<ReturnType<typeof filesLink> | null>(null);
  useEffect(() => () => link.current?.close(), []);
  return useCallback(() => (link.current ??= filesLink()), []);
}

function One({ id }: { id: string }) {
  const files = useFiles();
  const notes = useNotes(id);
  const [design, setDesign] = useState<Design | null>(null);
  const [left, setLeft] = useState<Record<FormatId, string[]> | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);

  useEffect(() => {
    let isOver = false;
    documentOf(id, store.getState())
      .then(async (document) => {
        if (isOver) return;
        setDesign(document);
        const out = await files().ask((worker) => worker.leftOut(document));
        if (!isOver) setLeft(out);
      })
      .catch((error: unknown) => !isOver && setSaid(sentence(error)));
    return () => void (isOver = true);
  }, [id, files]);

  const make = async (what: string, work: (of: Design) => Promise<string | null>) => {
    if (!design || busy) return;
    setBusy(what);
    setSaid(null);
    try {
      setSaid(await work(design));
    } catch (error) {
      setSaid(sentence(error));
    } finally {
      setBusy(null);
    }
  };
  const save = (format: FormatId) =>
    make(format, async (of) => {
      const { ending } = formatOf(format)!;
      const made = await files().ask((worker) => worker.make(of, format, correctionsOf(notes)));
      saveFile(made, of.title, ending);
      return `Saved as ${ending}.`;
    });
  const pdf = () =>
    make('pdf', async (of) => {
      const { file, pages, missing } = await fetchPdf(of, correctionsOf(notes));
      saveFile(file, of.title, 'pdf');
      return `${counted(pages, 'page')} saved.${missing ? ` These characters are in none of its fonts: ${missing}` : ''}`;
    });

  if (!design) return <p className="text-slate">{said ?? 'Opening …'}</p>;
  const button = (what: string, ending: string, onClick: () => void) => (
    <Button
      className="w-[92px] justify-center"
      disabled={busy !== null}
      onClick={onClick}
      aria-label={`Save ${what} (${ending})`}
    >
      {busy === what ? 'Making …' : `Save .${ending}`}
    </Button>
  );
  return (
    <>
      <ul aria-label="Formats" className="border-b border-rule">
        {FORMATS.map(({ id: format, name, about, ending, comesBack }) => (
          <li key={format} className={LINE}>
            <div>
              <span className="font-semibold">{name}</span>{' '}
              <span className="text-slate">{comesBack ? 'out and back in' : 'out only'}</span>
              <p className="text-[14px]">{about}</p>
              {left && left[format].length > 0 && (
                <p className="text-[14px] text-slate">Without: {left[format].join('; ')}.</p>
              )}
            </div>
            {button(format, ending, () => void save(format))}
          </li>
        ))}
        <li className={LINE}>
          <div>
            <span className="font-semibold">Sheet for print</span>{' '}
            <span className="text-slate">out only</span>
            <p className="text-[14px]">Pages as they are printed, with charts as lines.</p>
          </div>
          {button('pdf', 'pdf', () => void pdf())}
        </li>
      </ul>
      <Drawings design={design} isBusy={busy !== null} make={make} files={files} />
      <p role="status" className={said || busy ? TOLD : ''}>
        {said}
        {busy && (
          <button type="button" className="ml-3 underline" onClick={() => files().stop()}>
            Stop
          </button>
        )}
      </p>
    </>
  );
}

/** Charts and the piece's measures as drawings. */
function Drawings({
  design,
  isBusy,
  make,
  files,
}: {
  design: Design;
  isBusy: boolean;
  files: ReturnType<typeof useFiles>;
  make: (what: string, work: (of: Design) => Promise<string | null>) => Promise<void>;
}) {
  const [chart, setChart] = useState<Chart>(design.charts[0]!);
  const [dots, setDots] = useState<number>(300);
  const [ropes, setRopes] = useState(false);
  const [outlined, setOutlined] = useState(false);
  const title = [design.title, chart.name, 'chart'].filter(Boolean).join(' ');

  /** A drawing with its letters as they are asked for. */
  const lettered = async (drawing: Asked): Promise<Asked> => {
    if (!outlined) return drawing;
    const { outlines } = await import('../../ui/outlines.js');
    return { ...drawing, manner: { ...drawing.manner, outlined: await outlines() } };
  };
  const asked = () => lettered(chartDrawing(design, chart, { ropes }));
  const svg = () =>
    make('svg', async () => {
      const { svgOf } = await import('../../ui/picture-file.js');
      saveFile(svgOf(await asked()), title, 'svg');
      return 'The chart is saved as a drawing.';
    });
  const png = () =>
    make('png', async () => {
      const { pngOf } = await import('../../ui/picture-file.js');
      const made = await pngOf(await asked(), dots);
      if (!made) return 'This browser cannot paint so large a picture: save it as a drawing.';
      saveFile(made.file, title, 'png');
      return `The chart is saved as a picture, ${made.dots} dots to an inch.`;
    });
  const measures = () =>
    make('schematic', async (of) => {
      const picture = await files().ask((worker) => worker.measures(of));
      if (!picture) return 'Its measures are not known yet: width and length come from Setting out.';
      const { svgOf } = await import('../../ui/picture-file.js');
      saveFile(
        svgOf(await lettered({ picture, manner: { inks: PRINT_INKS }, title: `${of.title}, measures` })),
        `${of.title} measures`,
        'svg',
      );
      return 'The measures are saved as a drawing.';
    });
  return (
    <section aria-label="Drawings" className="mt-4">
      <h3 className="text-[17px] font-semibold">Drawings</h3>
      <div className="mt-2 flex flex-wrap items-end gap-x-4 gap-y-2">
        {design.charts.length > 1 && (
          <Field label="Chart">
            {(props) => (
              <Select
                {...props}
                value={chart.id}
                onChange={(e) => setChart(design.charts.find(({ id }) => id === e.target.value)!)}
              >
                {design.charts.map((one) => (
                  <option key={one.id} value={one.id}>
                    {chartName(design, one)}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        )}
        <Check label="Ropes in colours of their own" checked={ropes} onChange={setRopes} />
        <Check label="Letters as outlines" checked={outlined} onChange={setOutlined} />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Button disabled={isBusy} onClick={() => void svg()}>
          Chart as lines (SVG)
        </Button>
        <Button disabled={isBusy} onClick={() => void png()}>
          Chart as a picture (PNG)
        </Button>
        <Select
          aria-label="Dots to an inch of the picture"
          className="w-auto"
          value={dots}
          onChange={(e) => setDots(Number(e.target.value))}
        >
          {DOTS.map((n) => (
            <option key={n} value={n}>
              {n} dots to an inch
            </option>
          ))}
        </Select>
        {design.piece && (
          <Button disabled={isBusy} onClick={() => void measures()}>
            Measures of the piece (SVG)
          </Button>
        )}
      </div>
      <p className="mt-2 text-[14px] text-slate">
        Rows and stitches are groups with names of their own. The cloth is saved in its own room.
      </p>
    </section>
  );
}

/** Many designs, one file each, packed together. */
function Many({ ids }: { ids: readonly string[] }) {
  const files = useFiles();
  const [format, setFormat] = useState<FormatId>('json');
  const [done, setDone] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const stopped = useRef(false);

  const save = async () => {
    stopped.current = false;
    setSaid(null);
    setDone(0);
    const { ending } = formatOf(format)!;
    try {
      const { Zip, ZipDeflate } = await import('fflate');
      // Packed as they are made: what is done is not held twice.
      const parts: BlobPart[] = [];
      const zip = new Zip((error, part) => {
        if (error) throw error;
        parts.push(part);
      });
      const taken = new Set<string>();
      for (const [i, id] of ids.entries()) {
        if (stopped.current) return setSaid('Stopped; nothing was saved.');
        const design = await documentOf(id, store.getState());
        const made = await files().ask((worker) => worker.make(design, format, []));
        const file = new ZipDeflate(`${nameIn(design.title, taken)}.${ending}`, { level: 6 });
        zip.add(file);
        file.push(new Uint8Array(await made.arrayBuffer()), true);
        setDone(i + 1);
      }
      zip.end();
      saveFile(new Blob(parts, { type: 'application/zip' }), 'Designs', 'zip');
      setSaid(`${counted(ids.length, 'file')} saved in one zip.`);
    } catch (error) {
      setSaid(sentence(error));
    } finally {
      setDone(null);
    }
  };
  const { about } = formatOf(format)!;
  const hint = format === 'json' ? about : `${about} Of each design it leaves out what it does not hold.`;
  return (
    <>
      <Field label="Format" hint={hint}>
        {(props) => (
          <Select {...props} value={format} onChange={(e) => setFormat(e.target.value as FormatId)}>
            {FORMATS.map(({ id, name, ending }) => (
              <option key={id} value={id}>
                {name} (.{ending})
              </option>
            ))}
          </Select>
        )}
      </Field>
      <div className="mt-4 flex items-center justify-end gap-3">
        {done !== null && (
          <progress className="flex-1" value={done} max={ids.length} aria-label="Files made" />
        )}
        <span role="status" className="text-[14px]">
          {done === null ? said : `${done} of ${ids.length}`}
        </span>
        {done === null ? (
          <Button tone="main" onClick={() => void save()}>
            Save
          </Button>
        ) : (
          <Button
            onClick={() => {
              stopped.current = true;
              files().stop();
            }}
          >
            Stop
          </Button>
        )}
      </div>
    </>
  );
}

/** A title as the name of a file that is no other's. */
function nameIn(title: string, taken: Set<string>): string {
  const plain = fileName(title);
  let own = plain;
  for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain}-${n}`;
  taken.add(own.toLowerCase());
  return own;
}
