import { correctionsOf, PRINT_INKS, printedOf, sheetOf, styleOf } from '@cordelina/core';
import { SlidersHorizontal } from 'lucide-react';
import { useCallback, useMemo, useRef, useState, type CSSProperties } from 'react';
import { useProofState } from '../desk/head/ProofContext.js';
import { Seal } from '../desk/head/Seal.js';
import { useAppSelector } from '../desk/state/index.js';
import { onBench } from '../desk/state/editing.js';
import { useNotes } from '../desk/useNotes.js';
import { Button } from '../ui/Button.js';
import { Drawer } from '../ui/Drawer.js';
import { pageRule } from '../ui/page-rule.js';
import type { Manner } from '../ui/paint.js';
import { useKeptScroll } from '../ui/useKeptScroll.js';
import { useNarrow } from '../ui/useNarrow.js';
import { PageBreaks, printedWidth } from './PageBreaks.js';
import { Sheet } from './Sheet.js';
import { WordsEdge } from './WordsEdge.js';

/** The pattern as it will be printed, with names, style and page beside it and the seal that it has been proved. */
export function WordsRoom() {
  const design = useAppSelector(onBench)!.document;
  const { proved, last } = useProofState();
  const narrow = useNarrow();
  const article = useRef<HTMLElement>(null);
  const scroller = useKeptScroll(`words ${design.id}`, last !== null);
  const [isOpen, setOpen] = useState(false);
  const close = useCallback(() => setOpen(false), []);
  const { settings, charts, sheet } = design;
  const manner = useMemo<Manner>(
    () => ({ ...styleOf(settings), grid: true, inks: PRINT_INKS }),
    // Only these of them are drawn by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [settings.plain, settings.colours, settings.cloth],
  );
  // What was written last has as many charts as there are but for the moment in which one comes or goes.
  const written = last && last.charts.length === printedOf(design, last).length ? last : null;
  const notes = useNotes(design.id);
  const corrections = useMemo(() => correctionsOf(notes), [notes]);
  const blocks = useMemo(
    () => (written ? sheetOf(design, written, proved !== null, corrections) : null),
    [design, written, proved, corrections],
  );
  return (
    <div className="relative flex min-h-0 flex-1 print:block">
      <style>{pageRule(sheet.page, design.title)}</style>
      <main
        ref={scroller}
        tabIndex={0}
        aria-label="The printed sheet"
        className="min-w-0 flex-1 overflow-auto px-6 py-5 max-md:px-2 max-md:py-3 print:overflow-visible print:p-0"
      >
        <div className="mx-auto mb-2 flex max-w-[820px] items-center gap-3 px-1 font-sans print:hidden">
          <Seal long={!narrow} />
          {narrow && (
            <Button className="ml-auto" onClick={() => setOpen(true)}>
              <SlidersHorizontal size={15} aria-hidden /> Print, writing, sheet
            </Button>
          )}
        </div>
        <article
          ref={article}
          style={{ '--printed': `${printedWidth(sheet.page)}px` } as CSSProperties}
          className={`paper relative mx-auto box-content max-w-(--printed) border border-rule bg-chalk px-12 py-10 max-md:box-border font-print max-md:px-5 max-md:py-6 shadow-sheet print:max-w-none print:border-0 print:bg-white print:p-0 print:shadow-none ${sheet.large ? 'text-[20px]' : 'text-[15px]'}`}
          data-testid="sheet"
        >
          {blocks && !narrow && <PageBreaks sheet={article} page={sheet.page} of={blocks} />}
          {blocks ? (
            <Sheet
              blocks={blocks}
              charts={charts}
              manner={manner}
              page={sheet.page}
              isLarge={sheet.large}
              isCurrent={proved !== null}
            />
          ) : (
            <p className="min-h-[120vh] font-sans text-slate">Writing and proving …</p>
          )}
        </article>
      </main>
      {narrow ? (
        isOpen && (
          <Drawer name="How it is written and printed" side="right" onClose={close}>
            <WordsEdge blocks={blocks} />
          </Drawer>
        )
      ) : (
        <WordsEdge blocks={blocks} />
      )}
    </div>
  );
}
