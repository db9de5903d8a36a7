import {
  lazy,
  Suspense,
  useEffect,
  useRef,
  useState,
  type KeyboardEvent,
  type ReactNode,
  type RefObject,
} from 'react';
import { usePaneSize } from '../ui/usePaneSize.js';
import type { RowRange } from './RowsInView.js';
import type { Found } from './seek.js';

const GAP = 20;
const LEAST = 268;
const HEIGHT = 272;
const ALONE = 280;
const ROW = HEIGHT + GAP;
/** So many cards are drawn at once, seen or not. */
const FEW = 60;

/** Which rows stand near the screen is only asked where there are many. */
const RowsInView = lazy(async () => ({ default: (await import('./RowsInView.js')).RowsInView }));

/** Cards in rows; where there are many, only those near the screen are drawn. The arrows go from card to card; Tab comes to one of them. */
export function Shelf({
  found,
  scroller,
  children,
}: {
  found: readonly Found[];
  scroller: RefObject<HTMLElement | null>;
  /** Draws one card; `take` when the hands come to it. */
  children: (found: Found, inReach: boolean, take: () => void) => ReactNode;
}) {
  const { ref, size } = usePaneSize();
  const columns = Math.max(1, Math.floor((size.width + GAP) / (LEAST + GAP)));
  const width =
    columns === 1 ? Math.min(ALONE + 60, size.width) : (size.width - GAP * (columns - 1)) / columns;
  const [reached, setReached] = useState<string | null>(null);
  const [inView, setInView] = useState<RowRange | null>(null);
  // Where the hands go once the card is drawn.
  const wanted = useRef<string | null>(null);
  const count = size.width ? Math.ceil(found.length / columns) : 0;
  const at = Math.max(
    0,
    found.findIndex(({ card }) => card.id === reached),
  );

  useEffect(() => {
    if (!wanted.current) return;
    const card = ref.current?.querySelector<HTMLElement>(`[data-id="${wanted.current}"] [data-card]`);
    if (!card) return;
    wanted.current = null;
    card.focus({ preventScroll: true });
  });

  const onKeyDown = (e: KeyboardEvent) => {
    const moves: Record<string, number> = {
      ArrowRight: at + 1,
      ArrowLeft: at - 1,
      ArrowDown: at + columns,
      ArrowUp: at - columns,
      Home: 0,
      End: found.length - 1,
    };
    const to = moves[e.key];
    if (
      to === undefined ||
      e.altKey ||
      e.ctrlKey ||
      e.metaKey ||
      (e.target as Element).closest('[role=menu]')
    )
      return;
    e.preventDefault();
    const next = found[to];
    if (!next) return;
    wanted.current = next.card.id;
    setReached(next.card.id);
    const [pane, top] = [scroller.current, (ref.current?.offsetTop ?? 0) + Math.floor(to / columns) * ROW];
    if (!pane) return;
    if (top < pane.scrollTop) pane.scrollTop = top - GAP;
    else pane.scrollTop = Math.max(pane.scrollTop, top + ROW - pane.clientHeight);
  };

  const drawn = (row: number) =>
    found.slice(row * columns, (row + 1) * columns).map((one, c) => (
      <li
        key={one.card.id}
        data-id={one.card.id}
        aria-posinset={row * columns + c + 1}
        aria-setsize={found.length}
        className="absolute top-0"
        style={{
          width,
          left: columns === 1 ? (size.width - width) / 2 : c * (width + GAP),
          transform: `translateY(${row * ROW}px)`,
        }}
      >
        {children(one, row * columns + c === at, () => setReached(one.card.id))}
      </li>
    ));
  const few = Math.ceil(FEW / columns);
  const isMany = count > few;
  // Until it is known which stand near the screen, the first are drawn. They are the same cards then and after, in one list by
  // their ids: what is open at one of them stays open.
  const from = isMany && inView ? Math.min(inView.from, count - 1) : 0;
  const to = isMany ? Math.min(inView?.to ?? few - 1, count - 1) : count - 1;
  const cards = Array.from({ length: Math.max(0, to - from + 1) }, (_, i) => drawn(from + i)).flat();

  return (
    <div ref={ref} className="mt-4">
      <ul
        aria-label="Designs"
        className="relative"
        style={{ height: Math.max(0, count * ROW - GAP) }}
        onKeyDown={onKeyDown}
      >
        {cards}
      </ul>
      {isMany && (
        <Suspense>
          <RowsInView count={count} height={ROW} list={ref} scroller={scroller} onRange={setInView} />
        </Suspense>
      )}
    </div>
  );
}
