import { useLocation, useNavigate } from 'react-router';
import { SheetDialog } from '../../ui/Sheet.js';
import { useAppDispatch } from '../state/index.js';
import { beginWalk } from '../walk.js';
import { aboutAt } from './about.js';
import { allCommands, useOffered, type Offered } from './registry.js';

type Line = readonly [keys: string, what: string];

const lower = (label: string) => label[0]!.toLowerCase() + label.slice(1);

/** What each group of the sheet tells: the keys as they are shown, and what they do. */
function groupsOf(offered: readonly Offered[]): Map<string, Line[]> {
  const groups = new Map<string, Line[]>();
  const add = (group: string, ...lines: Line[]) =>
    groups.set(group, [...(groups.get(group) ?? []), ...lines]);
  for (const { besides = {} } of offered)
    for (const [group, lines] of Object.entries(besides)) add(group, ...lines);
  for (const { command } of allCommands(offered))
    if (command.keys.length) add(command.group, [command.keys[0]!, command.note ?? lower(command.label)]);
  return groups;
}

/** All keys of the room that is open, and of what stands around it. */
export function KeySheet({ onClose }: { onClose: () => void }) {
  const groups = groupsOf(useOffered());
  const about = aboutAt(useLocation().pathname);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  return (
    <SheetDialog
      open
      onOpenChange={(open) => !open && onClose()}
      title={about ? `${about.room}, and its keys` : 'Keys'}
      note={about?.isFor}
      wide
    >
      {about && (
        <p className="mb-4">
          <strong className="font-semibold">What it counts on.</strong> {about.countsOn}
        </p>
      )}
      <p className="mb-4 text-slate">
        Ctrl K finds everything that can be done, by its name. New here?{' '}
        <button
          type="button"
          className="text-peat underline underline-offset-2"
          onClick={() => {
            onClose();
            void dispatch(beginWalk()).then((to) => to && navigate(to));
          }}
        >
          Take a walk through the bench
        </button>
        .
      </p>
      <div className="columns-2 gap-8 max-md:columns-1">
        {[...groups].map(([title, lines]) => (
          <section key={title} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 text-[16px] font-semibold">{title}</h3>
            <dl className="grid gap-1">
              {lines.map(([keys, what]) => (
                <div
                  key={keys}
                  className="grid break-inside-avoid grid-cols-[104px_1fr] gap-2 text-[14px] leading-snug"
                >
                  <dt className="font-mono text-[13px] font-semibold">{keys}</dt>
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
