import { pixelOf, pointAt, sameValue, type View, type Dye } from '@cordelina/core';
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { Asked, Frame } from '../../workers/fabric/asked.js';

/** Where someone looks: null for all of the cloth. */
export type At = { scale: number; x: number; y: number } | null;

/** A stitch is drawn between so small and so large, in CSS pixels. */
export const ZOOMS = { least: 1.5, most: 180 } as const;
/** A picture has at most so many pixels: a screen's worth. What is larger is painted coarser. */
const MOST_PIXELS = 3_000_000;
const WHEEL = 1.0015;
/** An arrow key moves the cloth by this share of the picture. */
const KEY_PAN = 0.12;

/** How many pixels of the picture stand for one of the page. */
export function sharpness(width: number, height: number): number {
  const wanted = window.devicePixelRatio || 1;
  return Math.min(wanted, Math.sqrt(MOST_PIXELS / Math.max(1, width * height)));
}

/** What is asked of the worker for a pane of this size, in CSS pixels; null before it is laid out. */
export function useAsked(
  { width, height }: { width: number; height: number },
  side: View['side'],
  { yarn, second }: Dye,
  at: At,
): Asked | null {
  return useMemo(() => {
    if (width < 2 || height < 2) return null;
    const sharp = sharpness(width, height);
    return {
      width: Math.round(width * sharp),
      height: Math.round(height * sharp),
      side,
      dye: { yarn, second },
      at: at && { ...at, scale: at.scale * sharp },
    };
  }, [width, height, side, yarn, second, at]);
}

/** The lines of marked loops over the picture, in stitch widths. */
export type Lines = readonly (readonly (readonly [number, number])[])[];

/** Between yarns one points at the nearest of them, no further off than this share of a stitch. */
const NEAR = 0.4;

/** The loop at a pixel of a picture, or nearest to it; null where there is none about. */
function loopNear({ loopAt, view }: Frame, px: number, py: number): number | null {
  const { width, height, scale } = view;
  const at = (x: number, y: number) =>
    x < 0 || y < 0 || x >= width || y >= height ? -1 : loopAt[y * width + x]!;
  for (let off = 0; off <= NEAR * scale; off++)
    for (let along = -off; along <= off; along++)
      for (const loop of [
        at(px + along, py - off),
        at(px + along, py + off),
        at(px - off, py + along),
        at(px + off, py + along),
      ])
        if (loop >= 0) return loop;
  return null;
}

export function ClothView({
  frame,
  asked,
  size: { width, height },
  at,
  onLook,
  marked = [],
  label,
  onPoint,
  onPick,
}: {
  frame: Frame | null;
  asked: Asked | null;
  size: { width: number; height: number };
  at: At;
  /** Asked for another part of the cloth; not given where it cannot be moved. */
  onLook?: (at: At) => void;
  marked?: Lines;
  label: string;
  /** The loop at the pointer, or none. */
  onPoint?: (loop: number | null) => void;
  onPick?: (loop: number) => void;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [shown, setShown] = useState<Frame | null>(null);
  useLayoutEffect(() => {
    if (!frame || !canvas.current) return;
    const { bitmap, view } = frame;
    // A bitmap can be handed over once.
    if (bitmap.width) {
      canvas.current.width = view.width;
      canvas.current.height = view.height;
      canvas.current.getContext('bitmaprenderer')!.transferFromImageBitmap(bitmap);
    }
    setShown(frame);
  }, [frame]);

  // Until the picture that was asked for is there, the last one is moved to where it belongs.
  const sharp = sharpness(width, height);
  const painted: View | null = shown && {
    ...shown.view,
    width,
    height,
    scale: shown.view.scale / (shown.view.width / Math.max(1, width)),
  };
  const wanted: View | null = painted && (at ? { ...painted, ...at } : painted);
  const moved =
    painted && wanted && at
      ? (() => {
          const { x, y } = pixelOf(wanted, painted.x, painted.y);
          const by = wanted.scale / painted.scale;
          return `translate(${x - width / 2}px, ${y - height / 2}px) scale(${by})`;
        })()
      : undefined;

  const look = useCallback(
    (view: View, to: Partial<Pick<View, 'scale' | 'x' | 'y'>>) => {
      const { scale, x, y } = { ...view, ...to };
      onLook?.({ scale: Math.max(ZOOMS.least, Math.min(ZOOMS.most, scale)), x, y });
    },
    [onLook],
  );
  const zoom = useCallback(
    (view: View, by: number, px = view.width / 2, py = view.height / 2) => {
      const scale = Math.max(ZOOMS.least, Math.min(ZOOMS.most, view.scale * by));
      const held = pointAt(view, px, py);
      const then = pointAt({ ...view, scale }, px, py);
      look(view, { scale, x: view.x + held.x - then.x, y: view.y + held.y - then.y });
    },
    [look],
  );

  const wantedRef = useRef(wanted);
  useEffect(() => {
    wantedRef.current = wanted;
  });
  const box = useRef<HTMLDivElement>(null);
  const canMove = onLook !== undefined;
  useEffect(() => {
    const element = box.current;
    if (!element || !canMove) return;
    const onWheel = (e: WheelEvent) => {
      const view = wantedRef.current;
      if (!view) return;
      e.preventDefault();
      const { left, top } = element.getBoundingClientRect();
      zoom(view, WHEEL ** -e.deltaY, e.clientX - left, e.clientY - top);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [zoom, canMove]);

  const drag = useRef<{ x: number; y: number; view: View; far: boolean } | null>(null);
  const loopUnder = (e: { clientX: number; clientY: number }): number | null => {
    if (!shown || !box.current || !painted || !wanted) return null;
    const { left, top } = box.current.getBoundingClientRect();
    const point = pointAt(wanted, e.clientX - left, e.clientY - top);
    const { x, y } = pixelOf(shown.view, point.x, point.y);
    const [px, py] = [Math.floor(x), Math.floor(y)];
    return loopNear(shown, px, py);
  };
  const turn = wanted?.side === 'WS' ? -1 : 1;
  const onKeyDown = (e: React.KeyboardEvent) => {
    if (!wanted || !canMove || e.ctrlKey || e.metaKey || e.altKey) return;
    const [dx, dy] = [(KEY_PAN * width) / wanted.scale, (KEY_PAN * height) / wanted.scale];
    const acts: Record<string, () => void> = {
      ArrowLeft: () => look(wanted, { x: wanted.x - turn * dx }),
      ArrowRight: () => look(wanted, { x: wanted.x + turn * dx }),
      ArrowUp: () => look(wanted, { y: wanted.y + dy }),
      ArrowDown: () => look(wanted, { y: wanted.y - dy }),
    };
    const act = acts[e.key];
    if (!act) return;
    e.preventDefault();
    act();
  };
  return (
    <div
      ref={box}
      role="group"
      aria-label={label}
      tabIndex={canMove ? 0 : undefined}
      data-testid="cloth"
      data-scale={wanted?.scale.toFixed(2)}
      data-still={shown !== null && shown.isFine && sameValue(shown.asked, asked)}
      className={`relative overflow-hidden ${canMove ? 'cursor-grab touch-none active:cursor-grabbing' : ''}`}
      style={{ width, height }}
      onKeyDown={onKeyDown}
      onPointerDown={(e) => {
        if (e.button !== 0 || !wanted) return;
        if (canMove) e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = { x: e.clientX, y: e.clientY, view: wanted, far: false };
      }}
      onPointerMove={(e) => {
        const from = drag.current;
        if (from && canMove) {
          const [dx, dy] = [e.clientX - from.x, e.clientY - from.y];
          from.far ||= Math.hypot(dx, dy) > 3;
          if (from.far)
            look(from.view, {
              x: from.view.x - (turn * dx) / from.view.scale,
              y: from.view.y + dy / from.view.scale,
            });
        } else onPoint?.(loopUnder(e));
      }}
      onPointerUp={(e) => {
        const from = drag.current;
        drag.current = null;
        if (!from || from.far) return;
        const loop = loopUnder(e);
        if (loop !== null) onPick?.(loop);
      }}
      onPointerCancel={() => (drag.current = null)}
      onPointerLeave={() => onPoint?.(null)}
    >
      <canvas
        ref={canvas}
        aria-hidden
        style={{ width, height, transform: moved }}
        className="block origin-center"
        data-sharp={sharp}
      />
      {wanted && marked.length > 0 && (
        <svg aria-hidden width={width} height={height} className="pointer-events-none absolute inset-0">
          {(['outline', 'line'] as const).map((layer) => (
            <g
              key={layer}
              fill="none"
              strokeLinecap="round"
              strokeLinejoin="round"
              stroke={layer === 'outline' ? 'var(--chalk)' : 'var(--woad)'}
              strokeWidth={Math.max(
                layer === 'outline' ? 4 : 2,
                wanted.scale * (layer === 'outline' ? 0.22 : 0.12),
              )}
            >
              {marked.map((line, i) => (
                <polyline
                  key={i}
                  points={line
                    .map(([x, y]) => {
                      const p = pixelOf(wanted, x, y);
                      return `${p.x.toFixed(1)},${p.y.toFixed(1)}`;
                    })
                    .join(' ')}
                />
              ))}
            </g>
          ))}
        </svg>
      )}
    </div>
  );
}
