import { SECTION_NAMES, SECTIONS, type Design, type Section, type SheetSettings } from '@cordelina/core';
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { editHead } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Check, Choose, Field } from '../ui/Field.js';
import { SlowText } from '../ui/SlowText.js';

/** What stands on the sheet, in which order, and the page it is printed on. Every change is an edit and can be undone. */
export function SheetEdge({ design }: { design: Design }) {
  const dispatch = useAppDispatch();
  const { sheet, notes } = design;
  const set = (patch: Partial<SheetSettings>) =>
    dispatch(editHead('sheet', { sheet: { ...sheet, ...patch } }));
  return (
    <div className="flex flex-col gap-3.5">
      <Field label="By">
        {(props) => (
          <SlowText
            {...props}
            value={sheet.by}
            most={120}
            placeholder="Under the title"
            onCommit={(by) => set({ by })}
          />
        )}
      </Field>
      <Field label="Notes">
        {(props) => (
          <SlowText
            {...props}
            rows={3}
            value={notes}
            most={20_000}
            onCommit={(said) => dispatch(editHead('notes', { notes: said }))}
          />
        )}
      </Field>
      <Field label="Materials">
        {(props) => (
          <SlowText
            {...props}
            rows={3}
            value={sheet.materials}
            most={5_000}
            placeholder="Yarn, needles, notions, the swatch"
            onCommit={(materials) => set({ materials })}
          />
        )}
      </Field>
      <Sections order={sheet.order} onChange={(order) => set({ order })} />
      <Check
        label="Each chart beside its rows, if it is narrow enough"
        checked={sheet.beside}
        onChange={(beside) => set({ beside })}
      />
      <Check label="Large print" checked={sheet.large} onChange={(large) => set({ large })} />
      <Choose
        label="Page"
        value={sheet.page}
        onChange={(page) => set({ page })}
        options={[
          ['A4', 'A4, 210 × 297 mm'],
          ['Letter', 'US Letter, 8½ × 11 in'],
        ]}
      />
    </div>
  );
}

/** The sections of the sheet: those on it in their order, then those that are left out. Dragged, or moved by keys. */
function Sections({ order, onChange }: { order: readonly Section[]; onChange: (order: Section[]) => void }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const left = SECTIONS.filter((section) => !order.includes(section));
  const dropped = ({ active, over }: DragEndEvent) => {
    const [from, to] = [order.indexOf(active.id as Section), order.indexOf(over?.id as Section)];
    if (from >= 0 && to >= 0 && from !== to) onChange(arrayMove([...order], from, to));
  };
  return (
    <fieldset>
      <legend className="mb-1 text-[13px] text-slate">On the sheet, from the top</legend>
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={[...order]} strategy={verticalListSortingStrategy}>
          <ul className="grid gap-1" aria-label="Sections of the sheet">
            {order.map((section) => (
              <OnSheet
                key={section}
                section={section}
                onLeaveOut={() => onChange(order.filter((s) => s !== section))}
              />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      {left.length > 0 && (
        <ul className="mt-1 grid gap-1" aria-label="Left out of the sheet">
          {left.map((section) => (
            <li key={section} className="flex h-7 items-center gap-2 px-1 pl-[30px] text-[14px] text-slate">
              <label className="flex items-center gap-2">
                <input type="checkbox" checked={false} onChange={() => onChange([...order, section])} />
                {SECTION_NAMES[section]}
              </label>
            </li>
          ))}
        </ul>
      )}
    </fieldset>
  );
}

function OnSheet({ section, onLeaveOut }: { section: Section; onLeaveOut: () => void }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({
    id: section,
  });
  const name = SECTION_NAMES[section];
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`flex h-7 items-center gap-1 rounded-sm border border-rule bg-chalk px-1 text-[14px] ${isDragging ? 'relative z-10 border-peat' : ''}`}
    >
      <button
        type="button"
        className="grid h-6 w-6 cursor-grab touch-none place-items-center text-slate"
        aria-label={`Move ${name}`}
        {...attributes}
        {...listeners}
      >
        <GripVertical size={14} aria-hidden />
      </button>
      <label className="flex flex-1 items-center gap-2">
        <input type="checkbox" checked onChange={onLeaveOut} />
        {name}
      </label>
    </li>
  );
}
