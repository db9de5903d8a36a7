import {
  bookOf,
  indexAt,
  isCrossing,
  kindOf,
  nameOf,
  namingOf,
  pictureOf,
  PRINT_INKS,
  styleOf,
  type Chart,
  type Design,
  type Part,
} from '@cordelina/core';
import type { Asked } from '../../ui/picture-file.js';

/** A chart, or a part of it, as it is saved: its stitches named, its ropes in colours of their own where that is asked. */
export function chartDrawing(
  { title, settings }: Pick<Design, 'title' | 'settings'>,
  chart: Chart,
  { part, ropes = false }: { part?: Part; ropes?: boolean } = {},
): Asked {
  const style = { ...styleOf(settings), ropes };
  const naming = namingOf(settings, chart);
  const book = bookOf(chart);
  const nameAt = (row: number, column: number): string => {
    const stitch = chart.rows[row]![indexAt(chart.rows[row]!, column, book)]!;
    return isCrossing(stitch) ? (nameOf(stitch, naming) ?? 'crossing') : kindOf(stitch, book).name;
  };
  return {
    picture: pictureOf(chart, style, PRINT_INKS, part),
    manner: { inks: PRINT_INKS, nameOf: nameAt },
    title: `Chart of ${title}`,
  };
}
