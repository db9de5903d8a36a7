import { SheetDialog } from '../ui/Sheet.js';

const KEYS: [string, [string, string][]][] = [
  [
    'Work stitches',
    [
      ['6 k', 'a run of six knit, from the cursor leftwards (p purl, x no stitch)'],
      ['2/2 l c', 'a crossing by its groups: 2/2 LC; 2/1 r p c is 2/1 RPC'],
      ['c 4 f', 'a crossing by all its stitches and hold: C4F, T3B'],
      ['3 Enter', 'the third stitch in reach'],
      ['G', 'take the stitch at the cursor in hand'],
      ['Enter', 'the stitch in hand, over the selection if there is one'],
      ['/', 'seek any stitch by its word'],
      ['Delete', 'clear to ground; an increase or decrease goes with its columns'],
      ['Esc', 'let go: the keys typed, the selection, the stitch in hand'],
    ],
  ],
  [
    'Move and select',
    [
      ['Arrows', 'one stitch or row'],
      ['Home, End', 'to the right or left edge'],
      ['Page Up, Page Down', 'ten rows'],
      ['Shift + a move', 'select'],
      ['Ctrl A', 'select everything'],
    ],
  ],
  [
    'Change the chart',
    [
      ['Ctrl C, X, V', 'copy, cut, paste at the cursor'],
      ['O, L, M', 'crossing at the cursor: swap over and under, turn its lean, mirror it'],
      ['S', 'slip its front stitches one row further down'],
      ['M', 'with a selection: mirror it'],
      ['R', 'repeat the selected columns'],
      ['Alt ↑, Alt ↓', 'insert a row above, delete the row'],
      ['Alt ←, Alt →', 'insert a column to the left, delete the column'],
      ['Ctrl Z, Ctrl Y', 'undo, redo'],
    ],
  ],
  [
    'See',
    [
      ['+, −', 'larger, smaller'],
      ['?', 'this sheet'],
    ],
  ],
];

export function Shortcuts({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <SheetDialog
      open={open}
      onOpenChange={onOpenChange}
      title="Keys"
      note="On the chart. A hand on the number keys does most of it."
      wide
    >
      <div className="columns-2 gap-8">
        {KEYS.map(([title, keys]) => (
          <section key={title} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 text-[16px] font-semibold">{title}</h3>
            <dl className="grid gap-1">
              {keys.map(([key, what]) => (
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
