import { LIMITS, isField, type Chart, type Corners as CornersOf, type Grid } from '@cordelina/core';
import type { PDFDocumentProxy } from 'pdfjs-dist';
import { useEffect, useRef, useState } from 'react';
import { takeToTrace } from '../../desk/files/to-trace.js';
import { Button } from '../../ui/Button.js';
import { Check } from '../../ui/Field.js';
import { FileInput } from '../../ui/FileInput.js';
import { NumberField } from '../../ui/NumberField.js';
import { bitmapOf, NoPicture } from '../../workers/picture-in.js';
import { SheetDialog } from '../../ui/Sheet.js';
import { usePaneSize } from '../../ui/usePaneSize.js';
import { Stopped } from '../../workers/link.js';
import { Corners, type View } from './Corners.js';
import { gridBetween, openPicture, snapCorners } from './reader.js';
import type { Tracing } from './tracing.js';
import type { TracingActs } from './useTracing.js';

const isPdf = (file: Blob & { name?: string }) =>
  file.type === 'application/pdf' || /\.pdf$/i.test(file.name ?? '');

/** Where the corners are put in a picture in which no grid was found: some way in, to be pulled. */
const inside = ({ width, height }: { width: number; height: number }): CornersOf => {
  const [x, y] = [width * 0.1, height * 0.1];
  return [
    { x, y },
    { x: width - x, y },
    { x: width - x, y: height - y },
    { x, y: height - y },
  ];
};

/** The part of a picture about its grid, with some room around it. */
function nearView(corners: CornersOf, { width, height }: { width: number; height: number }): View {
  const [xs, ys] = [corners.map(({ x }) => x), corners.map(({ y }) => y)];
  const room = 0.12 * Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const [left, top] = [Math.max(0, Math.min(...xs) - room), Math.max(0, Math.min(...ys) - room)];
  return {
    x: left,
    y: top,
    width: Math.min(width, Math.max(...xs) + room) - left,
    height: Math.min(height, Math.max(...ys) + room) - top,
  };
}

/** A grid that fills less of the picture is looked at from near. */
const SMALL = 0.7;

interface Opened {
  picture: Blob;
  name: string;
  bitmap: ImageBitmap;
  /** Corners are in pixels of the picture as it is read, which may be smaller. */
  width: number;
  height: number;
}

/** Lays a picture of a chart under the one on the bench: its corners, its grid, and where it lies. */
export function TraceDialog({
  chart,
  tracing,
  open,
  onOpenChange,
  onLay,
}: {
  chart: Chart;
  /** The one that lies there already, whose corners are set anew. */
  tracing: Tracing | null;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  onLay: TracingActs['lay'];
}) {
  return (
    <SheetDialog
      open={open}
      onOpenChange={onOpenChange}
      title="Trace a picture of a chart"
      note="A photo, a scan or a page of a PDF. It stays in this browser: only what you take of it comes into the design."
      wide
    >
      {open && <Laying chart={chart} tracing={tracing} onLay={onLay} onClose={() => onOpenChange(false)} />}
    </SheetDialog>
  );
}

function Laying({
  chart,
  tracing,
  onLay,
  onClose,
}: {
  chart: Chart;
  tracing: Tracing | null;
  onLay: TracingActs['lay'];
  onClose: () => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const { ref, size } = usePaneSize();
  const [opened, setOpened] = useState<Opened | null>(null);
  const [pdf, setPdf] = useState<{ file: PDFDocumentProxy; name: string; page: number } | null>(null);
  const [working, setWorking] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [corners, setCorners] = useState<CornersOf | null>(null);
  const [grid, setGrid] = useState<Grid | null>(null);
  const [isFound, setFound] = useState(false);
  /** The part of the picture that is looked at; null for all of it. */
  const [near, setNear] = useState<View | null>(null);
  const [at, setAt] = useState(tracing?.at ?? { row: 0, column: 0 });
  const [grows, setGrows] = useState(true);
  /** Of several things that are under way the last counts. */
  const turn = useRef(0);

  const under = async (told: string, work: (isLast: () => boolean) => Promise<void>) => {
    const mine = ++turn.current;
    const isLast = () => mine === turn.current;
    setWorking(told);
    setProblem(null);
    try {
      await work(isLast);
    } catch (error) {
      if (!isLast() || error instanceof Stopped) return;
      if (!(error instanceof NoPicture)) console.error('A picture could not be opened.', error);
      setProblem(error instanceof NoPicture ? error.message : 'The picture could not be read.');
    } finally {
      if (isLast()) setWorking(null);
    }
  };
  const openBlob = async (picture: Blob, name: string, isLast: () => boolean) => {
    const [bitmap, { opened: found, problem }] = await Promise.all([bitmapOf(picture), openPicture(picture)]);
    if (!isLast()) return bitmap.close();
    if (!found) {
      setProblem(problem);
      return;
    }
    const { width, height } = found;
    const again = tracing?.picture === picture ? tracing : null;
    const begun = again?.corners ?? found.corners ?? inside(found);
    const opened = { picture, name, bitmap, width, height };
    setOpened(opened);
    setCorners(begun);
    const view = nearView(inBitmap(begun, opened), bitmap);
    setNear(found.grid && view.width * view.height < SMALL * bitmap.width * bitmap.height ? view : null);
    setGrid(again?.grid ?? found.grid ?? { columns: chart.width, rows: chart.rows.length });
    setFound(found.grid !== null);
  };
  const openPage = (file: PDFDocumentProxy, name: string, page: number) =>
    under(`Drawing page ${page} …`, async (isLast) => {
      setPdf({ file, name, page });
      const { pageAsPicture } = await import('../../ui/pdf-pages.js');
      const picture = await pageAsPicture(file, page);
      if (isLast()) await openBlob(picture, `${name}, page ${page}`.slice(0, 200), isLast);
    });
  const openFile = (file: File) =>
    under('Looking for a grid …', async (isLast) => {
      setPdf(null);
      if (!isPdf(file)) return openBlob(file, file.name.slice(0, 200), isLast);
      const { openPdf } = await import('../../ui/pdf-pages.js');
      const read = await openPdf(file);
      if (isLast()) void openPage(read, file.name, 1);
    });

  // What was handed over, or what lies there already.
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    const given = takeToTrace();
    // eslint-disable-next-line react-hooks/set-state-in-effect -- it is begun once, and told while it goes on
    if (given) void openFile(given);
    else if (tracing)
      void under('Opening the picture …', (isLast) => openBlob(tracing.picture, tracing.name, isLast));
  });

  const fits = grid && at.column + grid.columns <= chart.width && at.row + grid.rows <= chart.rows.length;
  return (
    <div
      ref={ref}
      onDragOver={(e) => {
        if (e.dataTransfer.types.includes('Files')) e.preventDefault();
      }}
      onDrop={(e) => {
        const [file] = e.dataTransfer.files;
        if (!file) return;
        e.preventDefault();
        e.stopPropagation();
        void openFile(file);
      }}
    >
      <FileInput
        ref={input}
        label="A picture of a chart"
        accept="image/png,image/jpeg,image/webp,application/pdf,.pdf"
        onFiles={([file]) => file && void openFile(file)}
      />
      <div className="mb-3 flex flex-wrap items-center gap-3 text-[14px]">
        <Button tone={opened ? 'plain' : 'main'} onClick={() => input.current?.click()}>
          {opened ? 'Another picture …' : 'Choose a picture or a PDF …'}
        </Button>
        {pdf && pdf.file.numPages > 1 && (
          <NumberField
            label="Page"
            value={pdf.page}
            most={pdf.file.numPages}
            of="page"
            onChange={(page) => void openPage(pdf.file, pdf.name, page)}
          />
        )}
        {opened && <span className="min-w-0 truncate text-slate">{opened.name}</span>}
        <span role="status" className="text-slate">
          {working}
        </span>
      </div>
      {problem && (
        <p role="alert" className="mb-3 text-madder">
          {problem}
        </p>
      )}
      {opened && corners && grid && size.width > 0 && (
        <>
          <p className="mb-2 text-[14px]">
            {isFound
              ? 'A grid was found. Its lines should lie on those of the picture: pull a corner where they do not.'
              : 'No grid was found by itself. Pull the corners to those of the grid, and say how many columns and rows it has.'}
          </p>
          <Corners
            picture={opened.bitmap}
            corners={inBitmap(corners, opened)}
            grid={grid}
            view={near ?? { x: 0, y: 0, width: opened.bitmap.width, height: opened.bitmap.height }}
            room={{ width: size.width, height: Math.max(220, window.innerHeight * 0.92 - 360) }}
            onChange={(next) => setCorners(fromBitmap(next, opened))}
          />
          <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
            <NumberField
              label="Columns"
              value={grid.columns}
              most={LIMITS.columns}
              of="column"
              onChange={(columns) => setGrid({ ...grid, columns })}
            />
            <NumberField
              label="Rows"
              value={grid.rows}
              most={LIMITS.rows}
              of="row"
              onChange={(rows) => setGrid({ ...grid, rows })}
            />
            <Button
              onClick={() =>
                void under('Counting the lines …', async (isLast) => {
                  const found = await gridBetween(corners);
                  if (!isLast()) return;
                  if (found) setGrid(found);
                  else setProblem('Too few lines are seen between these corners: say how many there are.');
                  setFound(found !== null);
                })
              }
            >
              Count the lines
            </Button>
            <Button
              aria-pressed={near !== null}
              onClick={() => setNear(near ? null : nearView(inBitmap(corners, opened), opened.bitmap))}
            >
              {near ? 'The whole picture' : 'Nearer'}
            </Button>
            <Button
              onClick={() =>
                void under('Laying it on the lines …', async (isLast) => {
                  const snapped = await snapCorners(corners, grid);
                  if (isLast()) setCorners(snapped);
                })
              }
            >
              Lay on the lines
            </Button>
          </div>
          <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-rule pt-3">
            <span className="text-[14px] text-slate">Its lower right cell lies on</span>
            <NumberField
              label="row"
              value={at.row + 1}
              most={chart.rows.length}
              of="row"
              onChange={(row) => setAt({ ...at, row: row - 1 })}
            />
            <NumberField
              label="column"
              value={at.column + 1}
              most={chart.width}
              of="column"
              onChange={(column) => setAt({ ...at, column: column - 1 })}
            />
          </div>
          {!fits && (
            <div className="mt-2">
              <Check
                label={`Make the chart ${Math.max(chart.width, at.column + grid.columns)} × ${Math.max(chart.rows.length, at.row + grid.rows)}, as the picture needs (it is ${chart.width} × ${chart.rows.length})`}
                checked={grows}
                onChange={setGrows}
              />
            </div>
          )}
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button
          tone="main"
          disabled={!opened || !corners || !grid || working !== null}
          onClick={() => {
            if (!opened || !corners || !grid || !isField(corners)) return;
            const { picture, name } = opened;
            const again =
              tracing?.picture === picture &&
              tracing.grid.columns === grid.columns &&
              tracing.grid.rows === grid.rows
                ? tracing
                : null;
            onLay(
              {
                picture,
                name,
                corners: [...corners],
                grid,
                at,
                opacity: again?.opacity ?? 0.8,
                isSeen: true,
                // What was shown stands in the picture, what was taken in the chart: both stay where only the corners are set anew.
                shown: again?.shown ?? [],
                taken: again?.taken ?? [],
              },
              !fits && grows,
            );
            onClose();
          }}
        >
          Lay it under the chart
        </Button>
      </div>
    </div>
  );
}

/** Corners as the picture on the screen has them, and as the picture that is read has them. */
const scaled = (corners: CornersOf, across: number, down: number): CornersOf =>
  corners.map(({ x, y }) => ({ x: x * across, y: y * down })) as unknown as CornersOf;
const inBitmap = (corners: CornersOf, { bitmap, width, height }: Opened) =>
  scaled(corners, bitmap.width / width, bitmap.height / height);
const fromBitmap = (corners: CornersOf, { bitmap, width, height }: Opened) =>
  scaled(corners, width / bitmap.width, height / bitmap.height);
