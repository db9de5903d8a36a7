import {
  countOver,
  drawInOf,
  gaugeOf,
  gramsPerLoop,
  growthOf,
  OVER,
  plainFor,
  type Swatch,
  type KeptSwatch,
} from '@cordelina/core';

/** What follows from a swatch, as the book shows it: rounded nowhere, and undefined where it was not measured. */
export interface SwatchFacts {
  kept: KeptSwatch;
  swatch: Swatch;
  /** The title of the design it belongs to; '' where it is of none. */
  design: string;
  /** Stitches and rows in 10 cm or 4 in. */
  stitches: number | undefined;
  rows: number | undefined;
  isWashed: boolean;
  wider: number | undefined;
  longer: number | undefined;
  drawIn: number | undefined;
  plain: Swatch | null;
  gramsPerLoop: number | undefined;
}

export type Unit = keyof typeof OVER;

/** "10 cm", "4 in": what a gauge is told over. */
export const OVER_TEXT: Readonly<Record<Unit, string>> = { cm: '10 cm', in: '4 in' };

/** @param titles of the designs, by id */
export function factsOf(
  book: readonly KeptSwatch[],
  titles: Readonly<Record<string, string>>,
  unit: Unit,
): SwatchFacts[] {
  const all = book.map(({ swatch }) => swatch);
  return book.map((kept) => {
    const { swatch } = kept;
    const [across, up] = [gaugeOf(swatch, 'stitches'), gaugeOf(swatch, 'rows')];
    const plain = plainFor(swatch, all);
    return {
      kept,
      swatch,
      design: swatch.of ? (titles[swatch.of.design] ?? '…') : '',
      stitches: across ? countOver(across.gauge, OVER[unit]) : undefined,
      rows: up ? countOver(up.gauge, OVER[unit]) : undefined,
      isWashed: across?.isWashed ?? false,
      wider: growthOf(swatch, 'stitches') ?? undefined,
      longer: growthOf(swatch, 'rows') ?? undefined,
      plain,
      drawIn: (plain && drawInOf(swatch, plain)) ?? undefined,
      gramsPerLoop: gramsPerLoop(swatch) ?? undefined,
    };
  });
}

/** "+4 %", "−12 %": a change, or a share where it has no sign of its own. */
export const percent = (share: number, signed = false): string => {
  const n = Math.round(share * 100);
  return `${n < 0 ? '−' : signed && n > 0 ? '+' : ''}${Math.abs(n)} %`;
};
