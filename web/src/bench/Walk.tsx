import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button, IconButton } from '../ui/Button.js';

interface Step {
  /** What it is about; passed over where that is not on the screen. */
  at: string;
  title: string;
  said: string;
}

/** A first rope, step by step. */
const STEPS: readonly Step[] = [
  {
    at: '[data-testid="chart"]',
    title: 'The chart',
    said: 'Each square is a stitch as the right side shows it. Row 1 is at the foot; right-side rows are read from the right. Click a square, or go there with the arrow keys.',
  },
  {
    at: '[data-testid="chart"]',
    title: 'Work a run of stitches',
    said: 'Go to column 5 of row 1 and type 4k, then Enter: four knit stitches. Faces carry up by themselves, so the rows above follow.',
  },
  {
    at: '[data-testid="chart"]',
    title: 'Cross them',
    said: 'Go to column 5 of row 3 and type 2/2lc, then Enter: two stitches cross in front of two, to the left. Ctrl Z takes back whatever you did, and says what.',
  },
  {
    at: '[aria-label="Words beside the rows"]',
    title: 'The words',
    said: 'Every row stands written on its own line, with its count. Double click a row, or press F2, to write it instead: the chart follows.',
  },
  {
    at: '[aria-label="Needle"]',
    title: 'The needle',
    said: 'The loops that wait for this row, in the order they are worked; at a crossing, what it does to them.',
  },
  {
    at: '[aria-label="Stitches"]',
    title: 'Stitches in reach',
    said: 'What this chart uses, most used first: its number, then Enter, sets it. Open the edge (B) to build any crossing from its stitch counts.',
  },
  {
    at: '[aria-label="Findings"]',
    title: 'Findings',
    said: 'What does not come out, or is against custom. Each leads to its place, and many can be mended with one press. They are marked in the chart too.',
  },
  {
    at: '[aria-label="Rooms"]',
    title: 'The other rooms',
    said: 'The same design as cloth, as the printed pattern, set out in a piece, for two beds, and at the needles. Press ? in any of them for what it is for and its keys.',
  },
];

const seen = (selector: string): DOMRect | null => {
  const box = document.querySelector(selector)?.getBoundingClientRect();
  return box && box.width > 0 ? box : null;
};

/** The walk through the bench: what is told stands in a corner, what it is about has a frame. It can be left and found again. */
export function Walk({ step }: { step: number }) {
  const dispatch = useAppDispatch();
  const walk = useAppSelector((s) => s.habits.walk)!;
  const [box, setBox] = useState<DOMRect | null>(null);
  const { at, title, said } = STEPS[step] ?? STEPS[0]!;
  useEffect(() => {
    const look = () => setBox(seen(at));
    look();
    const timer = setInterval(look, 400);
    return () => clearInterval(timer);
  }, [at]);
  const go = (by: 1 | -1) => {
    let to = step + by;
    while (STEPS[to] && !seen(STEPS[to]!.at)) to += by;
    if (STEPS[to]) dispatch(habits.changed({ walk: { ...walk, step: to } }));
    else if (by > 0) dispatch(habits.changed({ walk: { ...walk, step: 0, isOpen: false } }));
  };
  const leave = () => dispatch(habits.changed({ walk: { ...walk, isOpen: false } }));
  return (
    <>
      {box && (
        <div
          aria-hidden
          className="pointer-events-none fixed z-20 border-[3px] border-woad print:hidden"
          style={{ left: box.left - 2, top: box.top - 2, width: box.width + 4, height: box.height + 4 }}
        />
      )}
      <aside
        aria-label="A walk through the bench"
        className="fixed right-3 bottom-3 z-30 w-[340px] max-w-[calc(100vw-24px)] border border-peat bg-chalk p-4 shadow-sheet max-md:bottom-[124px] print:hidden"
      >
        <span className="absolute top-1.5 right-1.5">
          <IconButton name="Leave the walk; ? leads back to it" onClick={leave}>
            <X size={16} aria-hidden />
          </IconButton>
        </span>
        <p className="text-[13px] text-slate">
          {step + 1} of {STEPS.length}
        </p>
        <h2 className="text-[18px] font-semibold">{title}</h2>
        <p role="status" className="mt-1">
          {said}
        </p>
        <div className="mt-3 flex justify-end gap-2">
          {step > 0 && <Button onClick={() => go(-1)}>Back</Button>}
          <Button tone="main" onClick={() => go(1)}>
            {step === STEPS.length - 1 ? 'Done' : 'Next'}
          </Button>
        </div>
      </aside>
    </>
  );
}
