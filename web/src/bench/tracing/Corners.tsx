import { isField, planeOf, type Corners as CornersOf, type Grid, type Point } from '@cordelina/core';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';

const NAMES = ['Upper left', 'Upper right', 'Lower right', 'Lower left'] as const;

/** A part of a picture, in its pixels. */
export interface View {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Room around the picture, so that a corner at its very edge can be taken hold of. */
const MARGIN = 14;
/** What the glass over a corner shows, in pixels of the screen, and how much larger. */
const GLASS = { side: 132, times: 4 } as const;
/** More lines than this are not drawn one by one: they would be a veil. */
const MOST_LINES = 90;

const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A picture with the corners of its grid, to be pulled to where they lie, and the grid's lines drawn between them. */
export function Corners({
  picture,
  corners,
  grid,
  view,
  room,
  onChange,
}: {
  picture: ImageBitmap;
  corners: CornersOf;
  grid: Grid | null;
  /** The part of the picture that is shown, in its pixels. */
  view: View;
  /** What there is for it, in pixels of the screen. */
  room: { width: number; height: number };
  onChange: (corners: CornersOf) => void;
}) {
  const scale = Math.min((room.width - 2 * MARGIN) / view.width, (room.height - 2 * MARGIN) / view.height, 4);
  const [width, height] = [view.width * scale, view.height * scale];
  const { x: left, y: top, width: across, height: down } = view;
  const canvas = useRef<HTMLCanvasElement>(null);
  const glass = useRef<HTMLCanvasElement>(null);
  const [held, setHeld] = useState<number | null>(null);

  useEffect(() => {
    const paint = canvas.current?.getContext('2d');
    if (!paint || !canvas.current) return;
    const fine = window.devicePixelRatio || 1;
    canvas.current.width = Math.round(width * fine);
    canvas.current.height = Math.round(height * fine);
    paint.imageSmoothingQuality = 'high';
    paint.drawImage(picture, left, top, across, down, 0, 0, canvas.current.width, canvas.current.height);
  }, [picture, left, top, across, down, width, height]);

  // Through the glass a corner is set to the pixel.
  useEffect(() => {
    const paint = glass.current?.getContext('2d');
    if (!paint || held === null) return;
    const { x, y } = corners[held]!;
    const half = GLASS.side / 2;
    const times = GLASS.times * scale;
    paint.fillStyle = '#fff';
    paint.fillRect(0, 0, GLASS.side, GLASS.side);
    paint.imageSmoothingEnabled = false;
    paint.drawImage(
      picture,
      half - x * times,
      half - y * times,
      picture.width * times,
      picture.height * times,
    );
    paint.strokeStyle = '#1e4a8c';
    paint.beginPath();
    for (const [from, to] of [
      [0, half - 8],
      [half + 8, GLASS.side],
    ] as const) {
      paint.moveTo(from, half);
      paint.lineTo(to, half);
      paint.moveTo(half, from);
      paint.lineTo(half, to);
    }
    paint.stroke();
  }, [picture, corners, held, scale]);

  const move = (i: number, to: Point) => {
    const within = {
      x: Math.max(0, Math.min(picture.width, to.x)),
      y: Math.max(0, Math.min(picture.height, to.y)),
    };
    const next = corners.with(i, within) as unknown as CornersOf;
    if (isField(next)) onChange(next);
  };
  const onKey = (i: number) => (e: KeyboardEvent) => {
    const by = MOVES[e.key];
    if (!by) return;
    e.preventDefault();
    const step = (e.shiftKey ? 10 : 1) / Math.max(1, scale);
    move(i, { x: corners[i]!.x + by[0] * step, y: corners[i]!.y + by[1] * step });
  };
  const onDrag = (i: number) => (e: PointerEvent<HTMLButtonElement>) => {
    if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
    const box = canvas.current!.getBoundingClientRect();
    move(i, { x: view.x + (e.clientX - box.left) / scale, y: view.y + (e.clientY - box.top) / scale });
  };
  const isLow = held !== null && corners[held]!.y > view.y + view.height / 2;
  const isRight = held !== null && corners[held]!.x > view.x + view.width / 2;
  return (
    <div
      className="relative mx-auto border border-rule bg-fleece"
      style={{ width: width + 2 * MARGIN, height: height + 2 * MARGIN }}
      role="group"
      aria-label="The picture, and the corners of its grid"
    >
      <canvas
        ref={canvas}
        className="absolute"
        style={{ left: MARGIN, top: MARGIN, width, height }}
        aria-hidden
      />
      <svg
        aria-hidden
        className="pointer-events-none absolute overflow-visible"
        style={{ left: MARGIN, top: MARGIN }}
        width={width}
        height={height}
        viewBox={`${view.x} ${view.y} ${view.width} ${view.height}`}
      >
        <path
          d={linesOf(corners, grid)}
          fill="none"
          stroke="#1e4a8c"
          strokeWidth={1.2 / scale}
          opacity={0.75}
        />
        <path
          d={`M${corners.map(({ x, y }) => `${x} ${y}`).join('L')}Z`}
          fill="none"
          stroke="#1e4a8c"
          strokeWidth={2.2 / scale}
        />
      </svg>
      {corners.map(({ x, y }, i) => (
        <button
          key={NAMES[i]}
          type="button"
          aria-label={`${NAMES[i]!} corner: ${Math.round(x)} across, ${Math.round(y)} down. Arrows move it.`}
          data-corner={i}
          data-to-scale
          className="absolute h-6 w-6 cursor-move touch-none rounded-full border-2 border-woad bg-chalk/60"
          style={{ left: MARGIN + (x - view.x) * scale - 12, top: MARGIN + (y - view.y) * scale - 12 }}
          onFocus={() => setHeld(i)}
          onBlur={() => setHeld(null)}
          onKeyDown={onKey(i)}
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={onDrag(i)}
        />
      ))}
      {held !== null && (
        <canvas
          ref={glass}
          aria-hidden
          width={GLASS.side}
          height={GLASS.side}
          // In the corner that lies farthest from the one that is held.
          className={`pointer-events-none absolute border border-slate shadow-sheet ${isLow ? 'top-2' : 'bottom-2'} ${isRight ? 'left-2' : 'right-2'}`}
        />
      )}
    </div>
  );
}

/** The lines of a grid between corners, as a path. */
function linesOf(corners: CornersOf, grid: Grid | null): string {
  if (!grid) return '';
  const plane = planeOf(corners);
  const line = (a: Point, b: Point) => `M${a.x} ${a.y}L${b.x} ${b.y}`;
  const along = (many: number, at: (place: number) => string) =>
    Array.from({ length: Math.max(0, many - 1) }, (_, k) => k + 1)
      .filter((k) => many <= MOST_LINES || k % 10 === 0)
      .map((k) => at(k / many))
      .join('');
  return (
    along(grid.columns, (u) => line(plane(u, 0), plane(u, 1))) +
    along(grid.rows, (v) => line(plane(0, v), plane(1, v)))
  );
}
