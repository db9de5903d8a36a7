import { withoutEnding, type FileRead } from '@cordelina/core';
import { Check, CircleHelp, TriangleAlert } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { FolderFile } from '../desk/state/folder.js';
import { Button } from '../ui/Button.js';

const LOOK: Record<FileRead['outcome'], { Icon: typeof Check; tone: string; said: string }> = {
  read: { Icon: Check, tone: 'text-lichen', said: 'read' },
  asked: { Icon: CircleHelp, tone: 'text-weld', said: 'asked' },
  refused: { Icon: TriangleAlert, tone: 'text-madder', said: 'refused' },
};
const OUTCOMES = ['read', 'asked', 'refused'] as const;

/** What became of each text of a folder: read, asked or refused, and the first thing to be told of it. */
export function FolderTable({
  files,
  onOpen,
  onDesign,
}: {
  files: readonly FolderFile[];
  onOpen: (name: string) => void;
  onDesign: (id: string) => void;
}) {
  const [only, setOnly] = useState<FileRead['outcome'] | null>(null);
  const counts = useMemo(
    () => new Map(OUTCOMES.map((o) => [o, files.filter((f) => f.read?.outcome === o).length])),
    [files],
  );
  const shown = only ? files.filter((f) => f.read?.outcome === only) : files;
  return (
    <section aria-label="The texts" className="min-w-0">
      <div role="group" aria-label="Show" className="mb-2 flex flex-wrap gap-2">
        <Button
          aria-pressed={only === null}
          tone={only === null ? 'main' : 'plain'}
          onClick={() => setOnly(null)}
        >
          All {files.length}
        </Button>
        {OUTCOMES.map((o) => {
          const { Icon, said } = LOOK[o];
          return (
            <Button
              key={o}
              aria-pressed={only === o}
              tone={only === o ? 'main' : 'plain'}
              onClick={() => setOnly(o)}
            >
              <Icon size={15} aria-hidden /> {counts.get(o)} {said}
            </Button>
          );
        })}
      </div>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left text-[14px]">
          <thead>
            <tr className="border-b border-slate/60 text-[13px] text-slate">
              <th scope="col" className="py-1.5 pr-4 font-normal">
                Text
              </th>
              <th scope="col" className="py-1.5 pr-4 font-normal">
                Outcome
              </th>
              <th scope="col" className="py-1.5 pr-4 text-right font-normal">
                Rows
              </th>
              <th scope="col" className="py-1.5 pr-4 text-right font-normal">
                Cast on
              </th>
              <th scope="col" className="py-1.5 pr-4 font-normal">
                To be told
              </th>
              <th scope="col" className="py-1.5 font-normal">
                <span className="sr-only">Design</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map(({ name, read, design }) => {
              const look = read && LOOK[read.outcome];
              return (
                <tr key={name} className="border-b border-rule align-top">
                  <td className="max-w-[340px] min-w-[200px] py-1.5 pr-4">
                    <button
                      type="button"
                      className="text-left hover:underline"
                      aria-label={`Open ${name}`}
                      onClick={() => onOpen(name)}
                    >
                      <span className="font-semibold break-words">{read?.title ?? name}</span>
                      {read && read.title !== withoutEnding(name) && (
                        <span className="block font-mono text-[12px] break-words text-slate">{name}</span>
                      )}
                    </button>
                  </td>
                  <td className={`py-1.5 pr-4 whitespace-nowrap ${look?.tone ?? 'text-slate'}`}>
                    {look ? (
                      <span className="inline-flex items-center gap-1.5">
                        <look.Icon size={15} aria-hidden /> {look.said}
                      </span>
                    ) : (
                      'waiting'
                    )}
                  </td>
                  <td className="py-1.5 pr-4 text-right tabular-nums">{read?.rows || ''}</td>
                  <td className="py-1.5 pr-4 text-right tabular-nums">{read?.castOn ?? ''}</td>
                  <td className="py-1.5 pr-4">
                    {read && (
                      <>
                        {read.asked.length > 0 && (
                          <span className="mr-2 text-weld">
                            Asks {read.asked.map((w) => w.toUpperCase()).join(', ')}.
                          </span>
                        )}
                        {read.told}
                        {read.more > 0 && <span className="text-slate"> And {read.more} more.</span>}
                      </>
                    )}
                  </td>
                  <td className="py-1.5 text-right whitespace-nowrap">
                    {design && (
                      <button type="button" className="underline" onClick={() => onDesign(design)}>
                        On the bench
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
        {!shown.length && <p className="py-3 text-slate">None of them.</p>}
      </div>
    </section>
  );
}
