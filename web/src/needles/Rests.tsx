import { knittingSince, type Knitting } from '@cordelina/core';
import { useEffect, useState } from 'react';

/** A quiet word when the hands have knitted for as long as she set; it goes when she taps it, or rests. */
export function Rests({ knitting: { log, rest } }: { knitting: Knitting }) {
  const [now, setNow] = useState(() => Date.now());
  const [putOff, setPutOff] = useState(0);
  useEffect(() => {
    if (rest === null) return;
    const timer = setInterval(() => setNow(Date.now()), 20_000);
    return () => clearInterval(timer);
  }, [rest]);
  if (rest === null) return null;
  const minutes = knittingSince(log, now) / 60_000;
  if (minutes < rest || now - putOff < rest * 60_000) return null;
  return (
    <button
      type="button"
      onClick={() => setPutOff(now)}
      className="min-h-11 border-t border-rule px-3 text-left text-[14px] text-slate"
    >
      {Math.round(minutes)} minutes without a pause: let your hands rest a little. Tap to go on.
    </button>
  );
}
