import { SheetDialog } from '../ui/Sheet.js';
import type { Command, Commands } from './commands.js';
import { ENTRIES } from './entry.js';
import { MOVE_KEYS } from './useChartKeys.js';

const GROUPS: readonly Command['group'][] = ['Work stitches', 'Move and select', 'Change the chart', 'See'];

/** Keys that are no commands: what is typed as words of stitches, and moves. */
const BESIDES: Partial<Record<Command['group'], readonly (readonly [string, string])[]>> = {
  'Work stitches': ENTRIES,
  'Move and select': MOVE_KEYS,
};

/** What a group of the sheet tells: the keys as they are shown, and what they do. */
function keysOf(group: Command['group'], commands: Commands): (readonly [string, string])[] {
  const told = Object.values(commands)
    .filter((c) => c.group === group && c.keys.length > 0)
    .map((c) => [c.keys[0]!, c.note ?? c.label[0]!.toLowerCase() + c.label.slice(1)] as const);
  return [...(BESIDES[group] ?? []), ...told];
}

export function Shortcuts({
  commands,
  open,
  onOpenChange,
}: {
  commands: Commands;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <SheetDialog
      open={open}
      onOpenChange={onOpenChange}
      title="Keys"
      note="On the chart. A hand on the number keys does most of it."
      wide
    >
      <div className="columns-2 gap-8">
        {GROUPS.map((title) => (
          <section key={title} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 text-[16px] font-semibold">{title}</h3>
            <dl className="grid gap-1">
              {keysOf(title, commands).map(([key, what]) => (
                <div
                  key={key}
                  className="grid break-inside-avoid grid-cols-[104px_1fr] gap-2 text-[14px] leading-snug"
                >
                  <dt className="font-mono text-[13px] font-semibold">{key}</dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </SheetDialog>
  );
}
