import { useEffect, useState } from 'react';

/** What a phone beside the yarn does for the hands: it stays awake, reads aloud, and hears a headset's keys. */

/** Keeps the screen awake for as long as it is wished and the page is seen. Whether the browser does it. */
export function useAwake(isWished: boolean): boolean {
  const [holds, setHolds] = useState(false);
  useEffect(() => {
    if (!isWished || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const hold = async () => {
      if (document.visibilityState !== 'visible' || (lock && !lock.released)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (isOver) return void lock.release();
        setHolds(true);
        lock.addEventListener('release', () => setHolds(false));
      } catch {
        // A battery that is low, or a browser that does not wish to: the room says so.
        setHolds(false);
      }
    };
    void hold();
    const again = () => void hold();
    document.addEventListener('visibilitychange', again);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release();
    };
  }, [isWished]);
  return holds && isWished;
}

/** Reads a text aloud whenever it is another; nothing while it is null. */
export function useSpeech(text: string | null): void {
  useEffect(() => {
    if (text === null || !('speechSynthesis' in window)) return;
    const said = new SpeechSynthesisUtterance(text);
    said.lang = 'en';
    speechSynthesis.cancel();
    speechSynthesis.speak(said);
    return () => speechSynthesis.cancel();
  }, [text]);
}

const MEDIA = ['nexttrack', 'previoustrack', 'play', 'pause'] as const;

/** Hears the keys of a headset, where the browser tells of them. */
export function useHeadset(forward: () => void, back: () => void): void {
  useEffect(() => {
    if (!('mediaSession' in navigator)) return;
    const set = (run: Record<(typeof MEDIA)[number], (() => void) | null>) => {
      for (const name of MEDIA)
        try {
          navigator.mediaSession.setActionHandler(name, run[name]);
        } catch {
          // A key that this browser does not tell of.
        }
    };
    set({ nexttrack: forward, previoustrack: back, play: forward, pause: forward });
    return () => set({ nexttrack: null, previoustrack: null, play: null, pause: null });
  }, [forward, back]);
}

/** The keys of a pedal, a headset and a keyboard that go on and back. */
const GOES: Readonly<Record<string, 'forward' | 'back' | 'rowForward' | 'rowBack'>> = {
  ' ': 'forward',
  Enter: 'forward',
  ArrowRight: 'forward',
  PageDown: 'forward',
  MediaTrackNext: 'forward',
  MediaPlayPause: 'forward',
  ArrowLeft: 'back',
  Backspace: 'back',
  PageUp: 'back',
  MediaTrackPrevious: 'back',
  ArrowDown: 'rowForward',
  ArrowUp: 'rowBack',
};

/** Goes by keys, as long as no field and no sheet has them. */
export function useGoingKeys(go: Record<'forward' | 'back' | 'rowForward' | 'rowBack', () => void>): void {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const way = GOES[e.key];
      if (!way || e.ctrlKey || e.metaKey || e.altKey) return;
      const at = e.target as HTMLElement;
      if (at.closest('input, textarea, select, [role=dialog], [role=menu]')) return;
      if ((e.key === ' ' || e.key === 'Enter') && at.closest('button, a, summary')) return;
      e.preventDefault();
      go[way]();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [go]);
}
