import { useVirtualizer } from '@tanstack/react-virtual';
import type { ReactNode, RefObject } from 'react';

/** Of many rows of one height, those that stand near the screen. */
export function RowsInView({
  count,
  height,
  list,
  scroller,
  children,
}: {
  count: number;
  /** Of a row with the gap below it, in pixels. */
  height: number;
  list: RefObject<HTMLElement | null>;
  scroller: RefObject<HTMLElement | null>;
  /** Draws what stands in one row. */
  children: (row: number) => ReactNode[];
}) {
  // What it gives back is asked anew at each picture; nothing here is kept from it.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 2,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  return rows.getVirtualItems().flatMap(({ index }) => children(index));
}
