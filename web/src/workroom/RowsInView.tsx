import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, type RefObject } from 'react';

/** Rows that are drawn, both included. */
export interface RowRange {
  from: number;
  to: number;
}

/** Of many rows of one height, tells which stand near the screen; whoever asks draws them. */
export function RowsInView({
  count,
  height,
  list,
  scroller,
  onRange,
}: {
  count: number;
  /** Of a row with the gap below it, in pixels. */
  height: number;
  list: RefObject<HTMLElement | null>;
  scroller: RefObject<HTMLElement | null>;
  onRange: (range: RowRange) => void;
}) {
  // What it gives back is asked anew at each picture; nothing here is kept from it.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 3,
    scrollMargin: list.current?.offsetTop ?? 0,
  });
  const items = rows.getVirtualItems();
  const [from, to] = [items[0]?.index, items.at(-1)?.index];
  useLayoutEffect(() => {
    if (from !== undefined && to !== undefined) onRange({ from, to });
  }, [from, to, onRange]);
  return null;
}
