import { useEffect, useState, useSyncExternalStore } from 'react';

/** A moment of a moving picture is shown so long, in milliseconds. */
const MOMENT = 1800;

const still = () => window.matchMedia('(prefers-reduced-motion: reduce)');
const subscribe = (told: () => void) => {
  const query = still();
  query.addEventListener('change', told);
  return () => query.removeEventListener('change', told);
};

/** Whether nothing is to move by itself. */
export const useStill = (): boolean => useSyncExternalStore(subscribe, () => still().matches);

/** The moment of a moving picture that is shown, of so many; null where all of them are to stand still, one beside the other. */
export function useFrame(moments: number): number | null {
  const isStill = useStill();
  const [at, setAt] = useState(0);
  useEffect(() => {
    if (isStill) return;
    const timer = setInterval(() => setAt((n) => (n + 1) % moments), MOMENT);
    return () => clearInterval(timer);
  }, [isStill, moments]);
  return isStill ? null : at % moments;
}
