import { canFill, ChartSchema, filling, type Card, type Dye } from '@cordelina/core';
import { useMemo } from 'react';
import { SmallCloth } from './SmallCloth.js';

/** A piece of the fabric, as a card shows it. */
export function Thumbnail({
  preview,
  width,
  height,
  dye,
  stitch,
}: {
  preview: NonNullable<Card['summary']>['preview'];
  width: number;
  height: number;
  dye?: Dye;
  /** The least width of a stitch, in pixels: smaller, and more of the cloth shows. */
  stitch?: number;
}) {
  const chart = useMemo(
    () => filling(ChartSchema.parse(preview), { width, height }, stitch),
    [preview, width, height, stitch],
  );
  return <SmallCloth chart={chart} width={width} height={height} dye={dye} fill={canFill(chart, width)} />;
}
