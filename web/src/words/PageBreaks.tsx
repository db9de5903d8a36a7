import { PAGE_MARGIN, PAGES, type SheetSettings } from '@cordelina/core';
import { useEffect, useState, type RefObject } from 'react';

/** A millimetre in CSS pixels. */
const MM = 96 / 25.4;

/** The width of what is printed on a page, as the sheet has it on the screen too: its lines break where they will on paper. */
export const printedWidth = (page: SheetSettings['page']): number =>
  (PAGES[page].width - 2 * PAGE_MARGIN) * MM;

/** What is not parted by the end of a page. */
const WHOLE = '.break-inside-avoid, h1, h2, h3, p, figcaption, svg';

/** Where pages end on the sheet, in pixels from its top: before what would not fit whole, headings going with what they head. */
function breaksIn(sheet: HTMLElement, page: SheetSettings['page']): number[] {
  const height = (PAGES[page].height - 2 * PAGE_MARGIN) * MM;
  const top = sheet.getBoundingClientRect().top + parseFloat(getComputedStyle(sheet).paddingTop);
  const wholes = [...sheet.querySelectorAll(WHOLE)]
    .filter((element) => !element.parentElement?.closest('.break-inside-avoid'))
    .map((element) => {
      const box = element.getBoundingClientRect();
      return { from: box.top - top, to: box.bottom - top, heads: element.matches('h2, h3') };
    })
    .filter(({ from, to }) => to > from);
  const breaks: number[] = [];
  let begins = 0;
  wholes.forEach(({ to }, i) => {
    if (to - begins <= height) return;
    let first = i;
    while (first > 0 && wholes[first - 1]!.heads) first--;
    const at = wholes[first]!.from;
    // What is higher than a page is parted wherever the page ends.
    if (at <= begins) return;
    breaks.push(at);
    begins = at;
  });
  const offset = parseFloat(getComputedStyle(sheet).paddingTop);
  return breaks.map((at) => at + offset);
}

/** Shows on the sheet where its pages will end. A browser's print and the PDF may each end one a few lines earlier or later. */
export function PageBreaks({
  sheet,
  page,
  of,
}: {
  sheet: RefObject<HTMLElement | null>;
  page: SheetSettings['page'];
  /** What is on the sheet: it is looked at anew when it is another. */
  of: unknown;
}) {
  const [breaks, setBreaks] = useState<number[]>([]);
  useEffect(() => {
    const element = sheet.current;
    if (!element) return;
    const look = () => setBreaks(breaksIn(element, page));
    const observer = new ResizeObserver(look);
    observer.observe(element);
    return () => observer.disconnect();
  }, [sheet, page, of]);
  return breaks.map((top, i) => (
    <div
      key={i}
      data-testid="page-break"
      className="pointer-events-none absolute right-0 left-0 border-t border-dashed border-slate/70 font-sans print:hidden"
      style={{ top: top - 6 }}
    >
      <span className="absolute right-2 -translate-y-1/2 bg-chalk px-1.5 text-[12px] text-slate">
        page {i + 2}
      </span>
    </div>
  ));
}
