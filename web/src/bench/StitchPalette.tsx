import {
  become,
  STITCH_KINDS,
  stitchUse,
  type Chart,
  type Stitch,
  type StitchKind,
  bookOf,
} from '@cordelina/core';
import { Plus, Trash2, Search } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button, IconButton } from '../ui/Button.js';
import { PopSheet } from '../ui/Pop.js';
import { Input } from '../ui/Field.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';

const GROUPS: [StitchKind['group'], string][] = [
  ['plain', 'Plain'],
  ['slip', 'Slipped'],
  ['increase', 'Increases'],
  ['decrease', 'Decreases'],
  ['own', 'Your own'],
  ['gap', 'Gap'],
];

function matches(kind: StitchKind, text: string): boolean {
  const sought = text.trim().toLowerCase();
  return [kind.name, kind.rs.replace(/ ?#/, ''), kind.ws.replace(/ ?#/, '')].some((t) =>
    t.toLowerCase().includes(sought),
  );
}

/** Exact words come first, so that typing a stitch's own word finds it and not one that contains it. */
function ranked(kinds: readonly StitchKind[], text: string): StitchKind[] {
  const exact = (k: StitchKind) =>
    k.rs.replace(/ ?#/, '').toLowerCase() === text.trim().toLowerCase() ? 0 : 1;
  return kinds.filter((k) => matches(k, text)).sort((a, b) => exact(a) - exact(b));
}

interface Palette {
  chart: Chart;
  plain: 'empty' | 'bars';
  onTake: (stitch: Stitch) => void;
  onWork: (stitch: Stitch) => void;
  onMake: () => void;
}

/** Every stitch there is, by kind, to be sought by word or name; a click takes one up, Enter works the first found. */
export function StitchPalette({
  open,
  small = false,
  onOpenChange,
  ...palette
}: Palette & {
  open: boolean;
  /** Its button is a picture, as in the folded edge. */
  small?: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  return (
    <Popover.Root open={open} onOpenChange={onOpenChange}>
      <Popover.Trigger asChild>
        {small ? (
          <IconButton name="All stitches" keys="/">
            <Search size={16} aria-hidden />
          </IconButton>
        ) : (
          <Button className="w-full" title="Every stitch (/)">
            All stitches
          </Button>
        )}
      </Popover.Trigger>
      <PopSheet label="All stitches" side="right" sideOffset={10} className="flex w-[464px] flex-col p-3">
        <Stitches {...palette} close={() => onOpenChange(false)} />
      </PopSheet>
    </Popover.Root>
  );
}

function Stitches({ chart, plain, onTake, onWork, onMake, close }: Palette & { close: () => void }) {
  const dispatch = useAppDispatch();
  const [text, setText] = useState('');
  const book = bookOf(chart);
  const kinds = [...STITCH_KINDS.values(), ...chart.own.map((o) => book.kind(o.id)!)];
  const found = ranked(kinds, text);
  const used = new Set(stitchUse(chart).map((u) => u.stitch));
  return (
    <>
      <Input
        aria-label="Seek a stitch by word or name"
        placeholder="k2tog, slip, yarn over …"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !found[0]) return;
          e.preventDefault();
          onWork(found[0].id);
          close();
        }}
      />
      <div className="mt-2 min-h-0 flex-1 overflow-auto">
        {found.length === 0 && <p className="py-3 text-slate">No stitch is called so.</p>}
        {GROUPS.map(([group, title]) => {
          const members = found.filter((k) => k.group === group);
          if (!members.length) return null;
          return (
            <section key={group} aria-label={title} className="mt-2 first:mt-0">
              <h3 className="text-[13px] font-semibold text-slate">{title}</h3>
              <ul className="mt-1 grid grid-cols-2 gap-x-2">
                {members.map((kind) => (
                  <li key={kind.id} className="flex items-center">
                    <button
                      type="button"
                      onClick={() => {
                        onTake(kind.id);
                        close();
                      }}
                      className="flex h-9 min-w-0 flex-1 items-center gap-2 rounded-sm px-1 text-left hover:bg-wash"
                    >
                      <span className="grid w-[46px] shrink-0 place-items-center">
                        <StitchDrawing stitch={kind.id} chart={chart} plain={plain} height={20} most={44} />
                      </span>
                      <span className="min-w-0 leading-tight">
                        <span className="block truncate text-[13.5px]">{kind.name}</span>
                        <span className="block truncate font-mono text-[11.5px] text-slate">
                          {kind.rs
                            ? `${kind.rs.replace(/ ?#/, '')}  ${kind.takes} → ${kind.makes}`
                            : 'takes and makes nothing'}
                        </span>
                      </span>
                    </button>
                    {group === 'own' && !used.has(kind.id) && (
                      <IconButton
                        name={`Remove ${kind.name}`}
                        onClick={() =>
                          dispatch(
                            edit(`remove ${kind.name}`, (c) =>
                              become(c, { ...c, own: c.own.filter((o) => o.id !== kind.id) }),
                            ),
                          )
                        }
                      >
                        <Trash2 size={14} />
                      </IconButton>
                    )}
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
      </div>
      <Button
        className="mt-2"
        onClick={() => {
          close();
          onMake();
        }}
      >
        <Plus size={15} aria-hidden /> A stitch of your own
      </Button>
    </>
  );
}
