import {
  lengthText,
  OVER,
  RIGHT_TO,
  type Bounds,
  type Chart,
  type Design,
  type Extent,
  type MeasuredCloth,
} from '@cordelina/core';
import { useEffect, useMemo, useState } from 'react';
import { editHead } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import type { MeasuredSwatch } from '../ui/fabric/how-worked.js';
import { ignoreStopped, type ClothLink } from '../ui/fabric/useCloth.js';

const percent = (share: number) => `${Math.abs(Math.round(share * 100))} %`;

/** "24 % narrower than plain cloth", or wider, or as wide. */
function narrower(drawIn: number, than: string): string {
  if (Math.abs(drawIn) < 0.01) return `as wide as ${than}`;
  return `${percent(drawIn)} ${drawIn > 0 ? 'narrower' : 'wider'} than ${than}`;
}

/** How much the cloth draws in: as it is worked out, as swatches were measured, and the one fitted to the other. */
export function DrawIn({
  design,
  chart,
  extent,
  bounds,
  isAtRest,
  measured,
  plain,
  height,
  link,
}: {
  design: Design;
  /** Null for the piece. */
  chart: Chart | null;
  extent: Extent | null;
  /** All of the cloth, where it lies flat with edges. */
  bounds: Bounds | null;
  isAtRest: boolean;
  measured: readonly MeasuredSwatch[];
  plain: Pick<MeasuredCloth, 'stitches' | 'rows'> | null;
  height: number;
  link: ClothLink;
}) {
  const dispatch = useAppDispatch();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const { settings } = design;
  const { units, cloth } = settings;
  const { fitted } = cloth;
  const over = OVER[units];
  /** How wide a plain stitch is. */
  const stitch = plain ? plain.stitches.over / plain.stitches.count : 0;
  const ofThis = measured.filter((m) => m.chart.id === chart?.id);
  const samples = useMemo(() => measured.map((m) => ({ chart: m.chart, wide: 1 - m.drawIn })), [measured]);
  /** How wide each swatch lies with what was fitted. */
  const [now, setNow] = useState<{ samples: typeof samples; widths: readonly number[] } | null>(null);
  useEffect(() => {
    if (!fitted || !samples.length) return;
    let stale = false;
    link
      .ask((worker) => worker.widths(samples, fitted))
      .then((widths) => {
        if (!stale && widths) setNow({ samples, widths });
      })
      .catch(ignoreStopped);
    return () => {
      stale = true;
    };
  }, [link, fitted, samples]);
  const widths = fitted && now?.samples === samples ? now.widths : null;
  const fit = async () => {
    setBusy(true);
    setRefused(null);
    try {
      const found = await link.ask((worker) => worker.fit(samples, height));
      if (!found) return;
      if (found.refused) {
        const names = found.refused.samples.map((i) => `“${measured[i]!.swatch.name}”`).join(' and ');
        return setRefused(`${found.refused.message} (${names})`);
      }
      const fitted = { ...found.proportions, swatches: measured.slice(0, 20).map((m) => m.swatch.id) };
      dispatch(
        editHead('cloth fitted to swatches', { settings: { ...settings, cloth: { ...cloth, fitted } } }),
      );
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="How it draws in">
      <h2 className="text-[17px] font-semibold">As it lies</h2>
      <p data-testid="draw-in" className={isAtRest ? '' : 'text-slate'}>
        {extent ? (
          <>
            About <strong>{narrower(1 - extent.wide, 'plain cloth')}</strong>
            {Math.abs(1 - extent.high) >= 0.02 &&
              `, its rows ${percent(1 - extent.high)} ${extent.high < 1 ? 'lower' : 'higher'}`}
            .
          </>
        ) : (
          'Too little cloth to be measured.'
        )}
      </p>
      {extent && plain && (
        <p className="mt-1 text-[14px]">
          With {((plain.stitches.count * over) / plain.stitches.over).toFixed(1)} plain stitches in{' '}
          {lengthText(over, units)}, about{' '}
          {((plain.stitches.count * over) / plain.stitches.over / extent.wide).toFixed(1)} here.
        </p>
      )}
      {bounds && plain && (
        <p className="mt-1 text-[14px]" data-testid="cloth-size">
          This cloth: about {lengthText((bounds.right - bounds.left) * stitch, units)} by{' '}
          {lengthText((bounds.top - bounds.bottom) * stitch, units)}.
        </p>
      )}
      {!widths &&
        ofThis.map(({ swatch, drawIn }) => (
          <p key={swatch.id} className="mt-1 text-[14px]">
            Measured on “{swatch.name}”: {narrower(drawIn, 'the plain swatch')}.
          </p>
        ))}
      {widths && (
        <ul aria-label="What the fit misses" className="mt-1 text-[14px]">
          {measured.map(({ swatch, drawIn }, i) => {
            const misses = Math.round((1 - widths[i]! - drawIn) * 100);
            return (
              <li key={swatch.id}>
                “{swatch.name}”: measured {narrower(drawIn, 'plain')}, fitted{' '}
                {narrower(1 - widths[i]!, 'plain')}
                {misses ? `: ${Math.abs(misses)} % too ${misses > 0 ? 'narrow' : 'wide'}` : ''}.
              </li>
            );
          })}
        </ul>
      )}
      {refused && (
        <p role="alert" className="mt-1 text-[14px] text-madder">
          {refused}
        </p>
      )}
      {measured.length > 0 && (
        <p className="mt-2 flex flex-wrap gap-2">
          <Button className="h-7" disabled={busy} onClick={() => void fit()}>
            {busy
              ? 'Fitting …'
              : fitted
                ? 'Fit again'
                : `Fit to the ${measured.length > 1 ? `${measured.length} swatches` : 'swatch'}`}
          </Button>
          {busy && (
            <Button className="h-7" onClick={() => void link.ask((worker) => worker.stopFitting())}>
              Stop
            </Button>
          )}
          {fitted && (
            <Button
              className="h-7"
              onClick={() =>
                dispatch(
                  editHead('cloth of ordinary yarn', {
                    settings: { ...settings, cloth: { ...cloth, fitted: null } },
                  }),
                )
              }
            >
              Ordinary yarn again
            </Button>
          )}
        </p>
      )}
      <p className="mt-2 text-[13px] text-slate">
        {fitted
          ? `Fitted to ${fitted.swatches.length} of your swatches. `
          : measured.length
            ? 'Worked out for ordinary wool. '
            : 'Worked out for ordinary wool; with a swatch of this chart and a plain one of the same yarn and needle it can be fitted. '}
        An estimate, right to about {Math.round(RIGHT_TO * 100)} %: knit a swatch before you count on it.
      </p>
    </section>
  );
}
