import { lengthText, TOKENS, UNIT, type Laid, type LaidPart, type Settings } from '@cordelina/core';
import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  closestCenter,
} from '@dnd-kit/core';
import type { DragEndEvent } from '@dnd-kit/core';
import {
  horizontalListSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { scaleLinear } from 'd3-scale';
import { GripVertical } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Survey } from '../workers/piece.worker.js';
import { PieceCloth } from './PieceCloth.js';

/** The piece along its ruler, as the RS looks: the first part at the right. Each part is as wide as its stitches lie. */

/** A part that has no width is still to be seen and taken hold of. */
const NARROWEST = 14;

/** A stitch is never drawn wider, in pixels: a panel alone is a panel, and no wall. */
const WIDEST_STITCH = 12;
/** What a narrow piece still needs, so that its ruler and its parts can be read. */
const LEAST_STRIP = 320;

/** The room the piece takes of what there is, in pixels. */
export function roomOf(laid: Laid, room: number): number {
  const stitches = laid.parts.reduce((sum, p) => sum + p.stitches, 0);
  return Math.min(room, Math.max(LEAST_STRIP, stitches * WIDEST_STITCH));
}

/** The width of each part in pixels, from the right. */
export function widthsOf({ parts }: Laid, room: number): number[] {
  const measured = parts.map((p) => p.width ?? p.stitches * 5000);
  const least = parts.map((p) => (p.part.kind === 'marker' ? 10 : NARROWEST));
  const sum = measured.reduce((a, b) => a + b, 0) || 1;
  // Those that would be too narrow get what they need, and the others share what is left.
  const small = measured.map((w, i) => (w / sum) * room < least[i]!);
  const taken = least.reduce((a, w, i) => a + (small[i] ? w : 0), 0);
  const rest = measured.reduce((a, w, i) => a + (small[i] ? 0 : w), 0) || 1;
  return measured.map((w, i) => (small[i] ? least[i]! : (w / rest) * (room - taken)));
}

function useRoom(laid: Laid) {
  const ref = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(0);
  useEffect(() => {
    const of = ref.current!;
    const seen = new ResizeObserver(() => setRoom(of.clientWidth));
    seen.observe(of);
    return () => seen.disconnect();
  }, []);
  return { ref, room: roomOf(laid, room) };
}

export function PieceStrip({
  laid,
  survey,
  settings,
  chosen,
  onChoose,
  onMove,
}: {
  laid: Laid;
  survey: Survey | null;
  settings: Settings;
  chosen: string | null;
  onChoose: (id: string) => void;
  /** Moves a part so many places to the left, or (negative) to the right. */
  onMove: (id: string, by: number) => void;
}) {
  const { ref, room } = useRoom(laid);
  const widths = widthsOf(laid, room);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  // From the left on the screen is from the last part on.
  const shown = [...laid.parts].reverse();
  const ids = shown.map((p) => p.part.id);
  const dropped = ({ active, over }: DragEndEvent) => {
    const [from, to] = [ids.indexOf(String(active.id)), ids.indexOf(String(over?.id))];
    if (from < 0 || to < 0 || from === to) return;
    onMove(String(active.id), from - to);
  };
  return (
    <div ref={ref} className="min-w-0">
      {room > 0 && (
        <div className="mx-auto" style={{ width: room }}>
          <Ruler laid={laid} room={room} unit={settings.units} />
          <PieceCloth
            laid={laid}
            survey={survey}
            settings={settings}
            room={room}
            widths={widths}
            chosen={chosen}
            onChoose={onChoose}
          />
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
            <SortableContext items={ids} strategy={horizontalListSortingStrategy}>
              <ol aria-label="Parts, from the left as the right side looks" className="flex">
                {shown.map((of, i) => (
                  <PartTab
                    key={of.part.id}
                    of={of}
                    width={widths[laid.parts.length - 1 - i]!}
                    isChosen={of.part.id === chosen}
                    unit={settings.units}
                    onChoose={() => onChoose(of.part.id)}
                  />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
        </div>
      )}
    </div>
  );
}

/** How wide the piece lies, from the right edge as it is counted. */
function Ruler({ laid, room, unit }: { laid: Laid; room: number; unit: 'cm' | 'in' }) {
  if (laid.width === null) return <div className="h-6 text-[13px] text-slate">no ruler without a gauge</div>;
  const wide = laid.width / UNIT[unit];
  const x = scaleLinear()
    .domain([0, wide])
    .range([room - 0.5, 0.5]);
  const step = unit === 'cm' ? 1 : 0.5;
  const every = unit === 'cm' ? 5 : 1;
  const ticks = Array.from({ length: Math.floor(wide / step) + 1 }, (_, i) => i * step);
  const isThin = room / (wide / step) < 3;
  return (
    <svg
      width={room}
      height={24}
      role="img"
      aria-label={`A ruler of ${lengthText(laid.width, unit)}`}
      className="charted block overflow-visible"
    >
      <line x1={0} x2={room} y1={23.5} y2={23.5} stroke={TOKENS.slate} />
      {ticks.map((t) => {
        const isLong = Math.abs(t / every - Math.round(t / every)) < 1e-9;
        if (isThin && !isLong) return null;
        return (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1={23.5} y2={isLong ? 15 : 19} stroke={TOKENS.slate} />
            {isLong && (
              <text
                x={Math.min(room - 2, Math.max(4, x(t)))}
                y={11}
                textAnchor={x(t) > room - 8 ? 'end' : x(t) < 12 ? 'start' : 'middle'}
                className="fill-slate text-[11.5px]"
              >
                {t}
                {t === 0 ? ` ${unit}` : ''}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

function PartTab({
  of: { part, name, stitches, width, gaugeFrom },
  width: wide,
  isChosen,
  unit,
  onChoose,
}: {
  of: LaidPart;
  width: number;
  unit: Settings['units'];
  isChosen: boolean;
  onChoose: () => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: part.id,
  });
  const told = part.kind === 'marker' ? 'marker' : `${name}, ${stitches} stitches`;
  const isNarrow = wide < 46;
  return (
    <li
      ref={setNodeRef}
      style={{ width: wide, transform: CSS.Translate.toString(transform), transition }}
      // It is as wide as it lies: what is pressed reaches a little beyond a narrow one.
      data-to-scale
      className={`relative min-w-0 border border-l-0 border-rule first:border-l ${isChosen ? 'bg-peat text-chalk' : 'bg-chalk'} ${isDragging ? 'relative z-10 opacity-80' : ''}`}
    >
      <button
        type="button"
        aria-pressed={isChosen}
        aria-label={told}
        title={
          width === null
            ? told
            : `${told}, ${lengthText(width, unit)}${gaugeFrom === 'estimate' ? ' (estimate)' : ''}`
        }
        onClick={onChoose}
        className={`block h-10 w-full min-w-0 px-0.5 text-center leading-tight ${isNarrow ? 'after:absolute after:inset-y-0 after:-inset-x-1.5 hover:after:z-10' : 'overflow-hidden'}`}
      >
        {part.kind === 'marker' ? (
          <span aria-hidden>◆</span>
        ) : isNarrow ? (
          <span className="text-[12px] [writing-mode:horizontal-tb]">{stitches}</span>
        ) : (
          <>
            <span className="block truncate text-[13px]">{name}</span>
            <span className={`block text-[12px] ${isChosen ? '' : 'text-slate'}`}>{stitches} sts</span>
          </>
        )}
      </button>
      <button
        type="button"
        aria-label={`Move ${told}`}
        className={`grid h-6 w-full min-w-0 cursor-grab touch-none place-items-center border-t border-rule ${isChosen ? 'text-chalk' : 'text-slate'}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={12} aria-hidden />
      </button>
    </li>
  );
}
