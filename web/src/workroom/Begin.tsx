import { Grid3x3, Spline, TextQuote } from 'lucide-react';
import type { ComponentType } from 'react';

interface Way {
  icon: ComponentType<{ size: number; 'aria-hidden': true }>;
  name: string;
  said: string;
  begin: () => void;
}

/** An empty workroom: the three ways a design begins. */
export function Begin({
  onDraw,
  onWords,
  onMotif,
  onFile,
  onBasket,
  onBackup,
}: {
  onDraw: () => void;
  onWords: () => void;
  onMotif: () => void;
  onFile: () => void;
  onBasket: () => void;
  onBackup: () => void;
}) {
  const ways: Way[] = [
    {
      icon: Grid3x3,
      name: 'Draw it',
      said: 'An empty cloth of so many stitches and rows. Each row is written and counted as it is drawn.',
      begin: onDraw,
    },
    {
      icon: TextQuote,
      name: 'Paste its words',
      said: 'Rows as a pattern says them become a chart; what is unclear is asked, nothing is guessed.',
      begin: onWords,
    },
    {
      icon: Spline,
      name: 'Take a motif',
      said: 'A rope, a plait or a lattice, built to the width and repeat you ask for.',
      begin: onMotif,
    },
  ];
  return (
    <section aria-label="How a design begins" className="mt-8">
      <p className="text-[17px]">Nothing is on the shelf yet. A design begins in one of three ways:</p>
      <ul className="mt-4 grid grid-cols-3 gap-5 max-md:grid-cols-1">
        {ways.map(({ icon: Icon, name, said, begin }) => (
          <li key={name}>
            <button
              type="button"
              onClick={begin}
              className="grid h-full w-full content-start gap-1.5 border border-slate/60 bg-chalk p-5 text-left shadow-sheet hover:border-peat"
            >
              <Icon size={26} aria-hidden />
              <span className="mt-1 font-serif text-[19px] font-semibold">{name}</span>
              <span className="text-slate">{said}</span>
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-4 text-slate">
        Or bring one in{' '}
        <button type="button" className="text-peat underline underline-offset-2" onClick={onFile}>
          from a file
        </button>
        : it can also be dropped anywhere on this page. What was taken out lies in the{' '}
        <button type="button" className="text-peat underline underline-offset-2" onClick={onBasket}>
          basket
        </button>
        ; a whole workroom comes back from a{' '}
        <button type="button" className="text-peat underline underline-offset-2" onClick={onBackup}>
          backup
        </button>
        .
      </p>
    </section>
  );
}
