import { stitchBook, drawStitch, shapesText, spanOf, type Chart, type Stitch } from '@cordelina/core';
import { INKS, TOKENS, type Inks } from '@cordelina/core';

/** One stitch or crossing, drawn in a cell of its own. `height` is that of the cell in pixels. */
export function StitchDrawing({
  stitch,
  chart,
  plain = 'bars',
  height = 22,
  most = 200,
  inks = INKS,
}: {
  stitch: Stitch;
  chart: Pick<Chart, 'own'>;
  plain?: 'empty' | 'bars';
  height?: number;
  /** The widest it may be, in pixels; wider ones are drawn smaller. */
  most?: number;
  inks?: Inks;
}) {
  const book = stitchBook(chart.own);
  const span = spanOf(stitch, book);
  const cell = Math.min(height, most / span);
  return (
    <svg
      aria-hidden
      width={cell * span + 2}
      height={cell + 2}
      viewBox={`-0.04 -0.04 ${span + 0.08} 1.08`}
      className="charted block shrink-0"
      dangerouslySetInnerHTML={{
        __html: `<rect width="${span}" height="1" fill="${inks.casing}" stroke="${TOKENS.ruleHeavy}" stroke-width="0.05"/>${shapesText(drawStitch(stitch, plain, book), inks)}`,
      }}
    />
  );
}
