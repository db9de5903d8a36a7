import { useEffect, useRef, useSyncExternalStore } from 'react';
import type { Command } from './command.js';

/** The commands of whatever is on the screen: rooms offer theirs while they are open, and so does what stands around them. */

/** Keys that are no commands, by the group they stand in on the sheet: the keys, and what they do. */
export type Besides = Readonly<Record<string, readonly (readonly [string, string])[]>>;

export interface Offered {
  /** Who offers them, as the search of commands calls it. */
  from: string;
  commands: readonly Command[];
  besides?: Besides;
}

/** From whatever stands around the rooms. */
export const EVERYWHERE = 'Everywhere';

let offered: readonly Offered[] = [];
const listeners = new Set<() => void>();

function become(now: readonly Offered[]): void {
  offered = now;
  for (const listener of listeners) listener();
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** What is offered now: what a room offers before what is offered everywhere. */
export const offeredNow = (): readonly Offered[] => offered;
export const useOffered = (): readonly Offered[] => useSyncExternalStore(subscribe, offeredNow);

/** The commands that are offered, each once. */
export function allCommands(all: readonly Offered[] = offered): { from: string; command: Command }[] {
  const found = new Map<string, { from: string; command: Command }>();
  for (const { from, commands } of all)
    for (const command of commands) if (!found.has(command.id)) found.set(command.id, { from, command });
  return [...found.values()];
}

/**
 * Offers commands for as long as the component stands. What is run is what it says of a command by then; they need not
 * be kept the same from one picture to the next.
 */
export function useOffer(from: string, commands: readonly Command[], besides?: Besides): void {
  const latest = useRef(commands);
  useEffect(() => {
    latest.current = commands;
  });
  // Told anew when there are others, or they are called otherwise.
  const told = commands.map(({ id, label, keys }) => `${id} ${label} ${keys.join()}`).join('\n');
  useEffect(() => {
    const run = (id: string) => latest.current.find((c) => c.id === id)?.run();
    const mine: Offered = {
      from,
      besides,
      commands: latest.current.map((command) => ({ ...command, run: () => run(command.id) })),
    };
    const isEverywhere = (one: Offered) => one.from === EVERYWHERE;
    const now = [...offered, mine];
    become([...now.filter((one) => !isEverywhere(one)), ...now.filter(isEverywhere)]);
    return () => become(offered.filter((one) => one !== mine));
  }, [from, told, besides]);
}

// What shows them: one of the two at a time, or none.

export type Shown = 'search' | 'keys' | null;
let shown: Shown = null;

export function show(now: Shown): void {
  shown = now;
  for (const listener of listeners) listener();
}
export const useShown = (): Shown => useSyncExternalStore(subscribe, () => shown);
