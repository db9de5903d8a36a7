import type { Chart, Dye, SmallPicture } from '@cordelina/core';
import { useEffect, useMemo, useRef, useState } from 'react';
import { clothLink } from '../../workers/links.js';
import { paintsCloth } from '../abilities.js';

/** Pictures made once are kept, so many of them. */
const KEPT = 60;
const pictures = new Map<string, Promise<ImageBitmap>>();
const link = clothLink(() => undefined);

function pictureOf(
  key: string,
  chart: Chart,
  size: { width: number; height: number },
  dye: Dye,
  how: SmallPicture,
): Promise<ImageBitmap> {
  const kept = pictures.get(key);
  if (kept) {
    // The one used last goes to the end.
    pictures.delete(key);
    pictures.set(key, kept);
    return kept;
  }
  const made = link.ask((worker) => worker.small(chart, size, dye, how));
  pictures.set(key, made);
  made.catch(() => pictures.delete(key));
  const [oldest] = pictures.keys();
  if (pictures.size > KEPT && oldest !== undefined) pictures.delete(oldest);
  return made;
}

const UNDYED: Dye = { yarn: 'fleece', second: 'peat' };

/** The cloth of a chart at rest, drawn small: filled by its middle, or with all of it. For looking only. */
export function SmallCloth({
  chart,
  width,
  height,
  dye = UNDYED,
  side = 'RS',
  fill = true,
}: {
  chart: Chart;
  width: number;
  height: number;
  dye?: Dye;
  side?: 'RS' | 'WS';
  fill?: boolean;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [isThere, setThere] = useState(false);
  // Drawn when it comes into sight: a workroom may hold many.
  const [isNear, setNear] = useState(false);
  useEffect(() => {
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), {
      rootMargin: '120px',
    });
    observer.observe(canvas.current!);
    return () => observer.disconnect();
  }, []);
  const key = useMemo(
    () => JSON.stringify([chart, width, height, dye.yarn, dye.second, side, fill]),
    [chart, width, height, dye.yarn, dye.second, side, fill],
  );
  const latest = useRef({ chart, dye, side, fill });
  useEffect(() => {
    latest.current = { chart, dye, side, fill };
  });
  useEffect(() => {
    if (!isNear || !paintsCloth()) return;
    let stale = false;
    const scale = Math.min(2, window.devicePixelRatio || 1);
    const size = { width: Math.round(width * scale), height: Math.round(height * scale) };
    const { chart, dye, side, fill } = latest.current;
    pictureOf(key, chart, size, { yarn: dye.yarn, second: dye.second }, { side, fill })
      .then((bitmap) => {
        const ctx = canvas.current?.getContext('2d');
        if (stale || !ctx) return;
        ctx.canvas.width = bitmap.width;
        ctx.canvas.height = bitmap.height;
        ctx.drawImage(bitmap, 0, 0);
        setThere(true);
      })
      .catch((error: unknown) => console.error('A picture of cloth could not be made.', error));
    return () => {
      stale = true;
    };
  }, [isNear, key, width, height]);
  return (
    <canvas
      ref={canvas}
      aria-hidden
      data-testid="small-cloth"
      data-there={isThere}
      style={{ width, height }}
      className="block bg-board"
    />
  );
}
