import { SwatchSchema, type Swatch } from '@cordelina/core';
import { Plus } from 'lucide-react';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { Header } from '../desk/head/Header.js';
import { UndoRedo } from '../desk/head/UndoRedo.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import {
  addSwatch,
  bookHistory,
  bookOfSwatches,
  changeSwatch,
  isBookAway,
  meetSwatches,
  redoInBook,
  swatchesWaiting,
  takeSwatchOut,
  undoInBook,
} from '../desk/state/swatches.js';
import { Button } from '../ui/Button.js';
import { Drawer } from '../ui/Drawer.js';
import { UnitSwitch } from '../ui/UnitSwitch.js';
import { useKeptScroll } from '../ui/useKeptScroll.js';
import { useNarrow } from '../ui/useNarrow.js';
import { loadCards } from '../desk/designs.js';
import { factsOf } from './swatch-facts.js';
import { DrawInPlot, GaugePlot } from './Plots.js';
import { SwatchNotices } from './SwatchNotices.js';
import { SwatchPage } from './SwatchPage.js';
import { SwatchTable } from './SwatchTable.js';

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable]') !== null;

/** The swatch book: all swatches in a table with what follows from them drawn below, and one of them opened beside it. */
export function SwatchBook() {
  const dispatch = useAppDispatch();
  const narrow = useNarrow();
  const all = useAppSelector(bookOfSwatches);
  const waiting = useAppSelector(swatchesWaiting);
  const history = useAppSelector(bookHistory);
  const isAway = useAppSelector(isBookAway);
  const { message } = useAppSelector((s) => s.swatches);
  const { state } = useAppSelector((s) => s.listed.swatch);
  const cards = useAppSelector((s) => s.workroom.cards);
  const unit = useAppSelector((s) => s.habits.units);
  const [params, setParams] = useSearchParams();
  const scroller = useKeptScroll('swatches');
  const page = useRef<HTMLDivElement>(null);
  const [isOpen, setOpen] = useState(false);

  useEffect(() => {
    document.title = 'Swatch book – Cordelina';
    void dispatch(meetSwatches());
    void dispatch(loadCards());
  }, [dispatch]);

  const titles = useMemo(() => Object.fromEntries(cards.map((c) => [c.id, c.title])), [cards]);
  const facts = useMemo(() => factsOf(all, titles, unit), [all, titles, unit]);
  const wanted = params.get('swatch');
  const chosen = facts.find((f) => f.swatch.id === wanted) ?? facts[0] ?? null;
  const choose = useCallback((id: string) => setParams({ swatch: id }, { replace: true }), [setParams]);
  const enter = useCallback(() => {
    setOpen(true);
    setTimeout(() => page.current?.querySelector<HTMLElement>('textarea, input, select')?.focus());
  }, []);

  const put = useCallback(
    (swatch: Swatch) => {
      void dispatch(addSwatch(swatch));
      choose(swatch.id);
      enter();
    },
    [dispatch, choose, enter],
  );
  const begin = useCallback(
    () => put(SwatchSchema.parse({ id: newId(), name: `Swatch ${all.length + 1}` })),
    [put, all.length],
  );

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (document.querySelector('[role=dialog]')) return;
      // Escape in a sheet is the sheet's.
      if (e.key === 'Escape' && isTyping(e.target) && !(e.target as Element).closest('[role=dialog]'))
        return document.querySelector<HTMLElement>('tr[aria-selected=true]')?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  useOffer('Swatch book', [
    { id: 'new-swatch', label: 'New swatch', keys: ['N'], group: 'Swatch book', run: begin },
    ...(chosen
      ? [
          command('swatch-out', `Take ${chosen.swatch.name} out of the book`, 'Swatch book', () =>
            dispatch(takeSwatchOut(chosen.swatch.id)),
          ),
        ]
      : []),
  ]);
  const onUndo = useCallback(() => dispatch(undoInBook()), [dispatch]);
  const onRedo = useCallback(() => dispatch(redoInBook()), [dispatch]);

  const shown = chosen && (
    <SwatchPage
      key={chosen.swatch.id}
      top={page}
      facts={chosen}
      unit={unit}
      titles={titles}
      onChange={(label, patch) => dispatch(changeSwatch(chosen.swatch.id, label, patch))}
      onCopy={() =>
        // What was measured is the other swatch's own.
        put(
          SwatchSchema.parse({
            ...chosen.swatch,
            id: newId(),
            name: `${chosen.swatch.name}, again`.slice(0, 120),
            before: undefined,
            after: undefined,
            grams: null,
            whole: null,
          }),
        )
      }
      onTakeOut={() => {
        setOpen(false);
        dispatch(takeSwatchOut(chosen.swatch.id));
      }}
    />
  );
  return (
    <div className="flex h-full flex-col">
      <Header title={<span className="font-serif text-[17px]">Swatch book</span>}>
        <nav aria-label="Rooms of the studio" className="ml-2">
          <Link
            to="/"
            className="inline-flex items-center rounded-sm px-2.5 py-1.5 text-[14px] hover:bg-wash touch:h-11"
          >
            Workroom
          </Link>
        </nav>
        <span role="status" className="ml-auto truncate text-[13px] text-slate">
          {message ??
            (isAway
              ? `the server is away${waiting ? `; ${waiting} kept in this browser` : ''}`
              : waiting
                ? 'saving …'
                : 'saved')}
        </span>
        <UnitSwitch unit={unit} onChange={(units) => dispatch(habits.changed({ units }))} />
        <span className="flex">
          <UndoRedo last={history.undo} next={history.redo} onUndo={onUndo} onRedo={onRedo} />
        </span>
        <Button tone="main" onClick={begin} title="n">
          <Plus size={16} aria-hidden /> New swatch
        </Button>
      </Header>
      <SwatchNotices unit={unit} titles={titles} />
      <div className="relative flex min-h-0 flex-1">
        <main
          ref={scroller}
          tabIndex={-1}
          className="outline-none min-w-0 flex-1 overflow-auto px-5 py-4 max-md:px-3"
        >
          <h1 className="sr-only">Swatch book</h1>
          {state === 'loading' && !all.length && <p className="text-slate">Opening the book …</p>}
          {state !== 'loading' && !all.length && (
            <div className="mt-10 grid max-w-[520px] justify-items-start gap-3">
              <p>
                The book is empty. Knit a swatch of the chart, wash it, lay a ruler on it and count the
                stitches and rows between two marks: every width and every skein is worked out from that.
              </p>
              <Button tone="main" onClick={begin}>
                New swatch
              </Button>
            </div>
          )}
          {all.length > 0 && (
            <>
              <SwatchTable
                facts={facts}
                unit={unit}
                chosen={chosen?.swatch.id ?? null}
                opensAtOnce={narrow}
                onChoose={choose}
                onEnter={enter}
              />
              <div className="mt-5 grid grid-cols-2 gap-6 max-md:grid-cols-1">
                <figure>
                  <figcaption className="mb-1 font-serif text-[17px]">Gauge by needle</figcaption>
                  <GaugePlot facts={facts} unit={unit} chosen={chosen?.swatch.id ?? null} onChoose={choose} />
                </figure>
                <figure>
                  <figcaption className="mb-1 font-serif text-[17px]">Draw-in</figcaption>
                  <DrawInPlot facts={facts} chosen={chosen?.swatch.id ?? null} onChoose={choose} />
                </figure>
              </div>
              <p className="mt-4 text-[13px] text-slate">
                A gauge is what this yarn, needle and hand gave once. It is no promise: swatch again for each
                yarn.
              </p>
            </>
          )}
        </main>
        {shown &&
          (narrow ? (
            isOpen && (
              <Drawer name="The swatch" side="right" onClose={() => setOpen(false)}>
                <div className="h-full w-[360px] max-w-full pt-10">{shown}</div>
              </Drawer>
            )
          ) : (
            <aside className="w-[372px] shrink-0 border-l border-rule bg-chalk">{shown}</aside>
          ))}
      </div>
    </div>
  );
}
