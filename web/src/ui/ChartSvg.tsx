import {
  pictureOf,
  PRINT_INKS,
  svgInside,
  viewBoxOf,
  type Chart,
  type Inks,
  type Part,
  type Picture,
} from '@cordelina/core';
import { memo, useId, type SVGProps } from 'react';
import type { Manner } from './paint.js';

/** A picture as the core writes it; of drawings without marks the inks are their own. */
export function PictureSvg({
  picture,
  inks = PRINT_INKS,
  label,
  ...svg
}: { picture: Picture; inks?: Inks; label: string } & Omit<SVGProps<SVGSVGElement>, 'children'>) {
  const prefix = useId();
  return (
    <svg
      role="img"
      aria-label={label}
      viewBox={viewBoxOf(picture)}
      {...svg}
      dangerouslySetInnerHTML={{ __html: svgInside(picture, { inks, prefix }) }}
    />
  );
}

/** A chart as a vector drawing, for print and the words' sheet. */
export const ChartSvg = memo(function ChartSvg({
  chart,
  manner,
  label,
  part,
  cell = 18,
  tallest = '230mm',
}: {
  chart: Chart;
  manner: Manner;
  label: string;
  /** The part of it to draw; all of it unless told otherwise. */
  part?: Part;
  /** The size of a cell where there is room for it, in pixels. */
  cell?: number;
  /** The greatest height, that of a printed page. */
  tallest?: string;
}) {
  const picture = pictureOf(chart, manner, manner.inks, part);
  return (
    <PictureSvg
      picture={picture}
      inks={manner.inks}
      label={label}
      className="charted"
      style={{ width: `${picture.box.width * cell}px`, maxWidth: '100%', maxHeight: tallest }}
    />
  );
});
