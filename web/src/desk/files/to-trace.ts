import { useSyncExternalStore } from 'react';

/** A picture that was brought in, on its way to the bench where it is laid under a chart. */
let waiting: File | null = null;
const listeners = new Set<() => void>();

function become(file: File | null): void {
  waiting = file;
  for (const listener of listeners) listener();
}

export const giveToTrace = (file: File): void => become(file);

export function takeToTrace(): File | null {
  const file = waiting;
  become(null);
  return file;
}

const listen = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

/** Whether a picture waits to be laid. */
export const useWaitsToTrace = (): boolean => useSyncExternalStore(listen, () => waiting !== null);

/** What may be a picture of a chart, or hold one on a page. */
export const isPicture = ({ type, name }: File): boolean =>
  /^image\/(png|jpeg|webp)$/.test(type) ||
  type === 'application/pdf' ||
  /\.(png|jpe?g|webp|pdf)$/i.test(name);
