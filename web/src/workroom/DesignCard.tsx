import { CARD_PICTURE, counted, pictureAt, wayOf, type Card } from '@cordelina/core';
import { intlFormatDistance } from 'date-fns';
import { MoreHorizontal } from 'lucide-react';
import {
  forwardRef,
  lazy,
  Suspense,
  useEffect,
  useReducer,
  useRef,
  useState,
  type ButtonHTMLAttributes,
  type KeyboardEvent,
} from 'react';
import { Link } from 'react-router';
import type { MenuLines } from '../ui/Menu.js';
import type { Found } from './seek.js';
import { usePicture } from './usePicture.js';

/** The page knits a picture itself only where the server has none. */
const Thumbnail = lazy(async () => ({ default: (await import('../ui/fabric/Thumbnail.js')).Thumbnail }));
const CardMenu = lazy(async () => ({ default: (await import('./CardMenu.js')).CardMenu }));

/** What a card says of its design's state. */
function stateOf({ version, summary }: Card, waits: boolean, opens: boolean): { text: string; tone: string } {
  if (!opens) return { text: 'not kept in this browser', tone: 'text-slate' };
  if (waits)
    return { text: version ? 'edits wait in this browser' : 'only in this browser yet', tone: 'text-slate' };
  if (!summary) return { text: 'being counted …', tone: 'text-slate' };
  const { errors, cautions } = summary;
  if (errors)
    return {
      text: `${counted(errors, 'error')}${cautions ? `, ${counted(cautions, 'caution')}` : ''}`,
      tone: 'text-madder',
    };
  if (cautions) return { text: counted(cautions, 'caution'), tone: 'text-weld' };
  return { text: 'counts come out', tone: 'text-lichen' };
}

/** How long ago that was is told anew so often, in milliseconds. */
const TOLD_ANEW = 20_000;

/** "3 minutes ago", for as long as it is so. */
function Ago({ at }: { at: string }) {
  const [, again] = useReducer((times: number) => times + 1, 0);
  useEffect(() => {
    const timer = setInterval(again, TOLD_ANEW);
    return () => clearInterval(timer);
  }, []);
  return intlFormatDistance(new Date(at), new Date(), { locale: 'en', numeric: 'always' });
}

/** One design on the shelf. Of all of them one is in reach of the Tab key; the arrows go to the others. */
export function DesignCard({
  found: { card, why },
  waits,
  opens,
  inReach,
  lines,
  onFocus,
}: {
  found: Found;
  waits: boolean;
  opens: boolean;
  inReach: boolean;
  /** What may be done with it. */
  lines: MenuLines;
  onFocus: () => void;
}) {
  const { summary } = card;
  const state = stateOf(card, waits, opens);
  const tabIndex = inReach ? 0 : -1;
  // The keys that the menu shows.
  const onKeyDown = (e: KeyboardEvent) => {
    const line = lines.flat().find(({ keys }) => keys === (e.key === 'Delete' ? 'Del' : e.key));
    if (!line || e.ctrlKey || e.metaKey || e.altKey) return;
    e.preventDefault();
    line.run();
  };
  return (
    <article
      onFocus={onFocus}
      className="relative border border-rule bg-chalk shadow-sheet transition-[border-color] duration-100 focus-within:border-peat hover:border-peat"
    >
      <Link
        to={`/designs/${card.id}`}
        className="block overflow-hidden"
        aria-label={card.title}
        data-card
        tabIndex={tabIndex}
        onKeyDown={onKeyDown}
      >
        <div className="relative">
          {summary ? <CardPicture card={card} summary={summary} /> : <div className="h-[176px] bg-wash" />}
          {(why || (summary?.tags.length ?? 0) > 0) && (
            <p className="absolute inset-x-0 bottom-0 flex flex-wrap gap-1 p-1.5 text-[12.5px]">
              {why && <Label>{why}</Label>}
              {summary?.tags.slice(0, 3).map((tag) => (
                <Label key={tag}>{tag}</Label>
              ))}
            </p>
          )}
        </div>
        <div className="border-t border-rule px-3.5 pt-2.5 pb-3">
          <h2 className="truncate pr-8 text-[18px] font-semibold">{card.title}</h2>
          <p className="truncate text-[13.5px] text-slate">
            {summary
              ? `${summary.columns} × ${summary.rows}, ${wayOf(summary).worked}, cast on ${summary.castOn}`
              : '…'}
          </p>
          <p className="mt-1 flex justify-between gap-2 text-[13.5px] whitespace-nowrap">
            <span className={`truncate ${state.tone}`}>{state.text}</span>
            <span className="shrink-0 text-slate">
              <Ago at={card.savedAt} />
            </span>
          </p>
        </div>
      </Link>
      <More title={card.title} lines={lines} tabIndex={tabIndex} />
    </article>
  );
}

const Label = ({ children }: { children: string }) => (
  <span className="max-w-full truncate rounded-sm bg-chalk/95 px-1.5 py-px text-peat shadow-sheet">
    {children}
  </span>
);

/** The button of a card's menu; the menu itself comes when it is first asked for. */
function More({ title, lines, tabIndex }: { title: string; lines: MenuLines; tabIndex: number }) {
  const [isAsked, setAsked] = useState(false);
  const label = `More for ${title}`;
  const button = <MoreButton aria-label={label} tabIndex={tabIndex} onClick={() => setAsked(true)} />;
  if (!isAsked) return button;
  return (
    <Suspense fallback={button}>
      <CardMenu label={label} lines={lines}>
        <MoreButton aria-label={label} tabIndex={tabIndex} />
      </CardMenu>
    </Suspense>
  );
}

const MoreButton = forwardRef<HTMLButtonElement, ButtonHTMLAttributes<HTMLButtonElement>>((props, ref) => (
  <button
    type="button"
    title="More"
    aria-haspopup="menu"
    {...props}
    ref={ref}
    className="absolute right-1.5 bottom-[50px] grid h-9 w-9 place-items-center rounded-sm hover:bg-wash touch:h-11 touch:w-11"
  >
    <MoreHorizontal size={18} aria-hidden />
  </button>
));

/** The cloth of a card, as the server pictures it; of a design it does not have, as the page knits it. */
function CardPicture({ card, summary }: { card: Card; summary: NonNullable<Card['summary']> }) {
  const { id, summaryVersion } = card;
  const place = useRef<HTMLDivElement>(null);
  const src = summaryVersion === null ? null : pictureAt(id, summaryVersion);
  const { picture, isMissing } = usePicture(place, src);
  return (
    <div ref={place} className="grid h-[176px] w-full bg-board">
      {picture && <img src={picture} {...CARD_PICTURE} alt="" className="h-[176px] w-full object-cover" />}
      {!src && summary.preview && (
        <Suspense>
          <Thumbnail preview={summary.preview} {...CARD_PICTURE} dye={summary} />
        </Suspense>
      )}
      {!picture && isMissing && <p className="place-self-center">no picture yet</p>}
    </div>
  );
}
