import { counted, type Card } from '@cordelina/core';
import { Archive, BookOpen, FileUp, Plus, Search, TextQuote, Trash2, X } from 'lucide-react';
import { lazy, Suspense, useCallback, useEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { Link, useNavigate } from 'react-router';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import {
  duplicate,
  freshCards,
  loadCards,
  putBack,
  rename,
  setTags,
  takeOut,
  takeOutAgain,
} from '../desk/designs.js';
import { Header } from '../desk/head/Header.js';
import { ThemeButton } from '../desk/head/ThemeButton.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { habits } from '../desk/state/habits.js';
import { waitingDesigns, workroom } from '../desk/state/workroom.js';
import { beginWalk } from '../desk/walk.js';
import { lacking } from '../ui/abilities.js';
import { Button } from '../ui/Button.js';
import { Input, Select } from '../ui/Field.js';
import { FileInput } from '../ui/FileInput.js';
import { giveBack } from '../ui/hands.js';
import type { MenuLines } from '../ui/Menu.js';
import { useKeptScroll } from '../ui/useKeptScroll.js';
import { DesignCard } from './DesignCard.js';
import { ORDERS, seek, tagsOf } from './seek.js';
import { Shelf } from './Shelf.js';
import { useGivenFiles } from './useGivenFiles.js';
import { useSought } from './useSought.js';

/** Sheets are fetched when they are first asked for: the shelf stands without. */
const NewDesign = lazy(async () => ({ default: (await import('./NewDesign.js')).NewDesign }));
const Basket = lazy(async () => ({ default: (await import('./Basket.js')).Basket }));
const TagsDialog = lazy(async () => ({ default: (await import('./TagsDialog.js')).TagsDialog }));
const Begin = lazy(async () => ({ default: (await import('./Begin.js')).Begin }));
const Backup = lazy(async () => ({ default: (await import('./Backup.js')).Backup }));
const BringIn = lazy(async () => ({ default: (await import('../desk/files/BringIn.js')).BringIn }));
const SaveCopy = lazy(async () => ({ default: (await import('../desk/files/SaveCopy.js')).SaveCopy }));
const NameDialog = lazy(async () => ({ default: (await import('../ui/NameDialog.js')).NameDialog }));

/** The sheet that lies over the workroom. */
type Over =
  | { is: 'new'; from: 'cloth' | 'motif' }
  | { is: 'basket' | 'backup' }
  | { is: 'rename' | 'tags'; card: Card }
  | { is: 'files'; files: readonly File[] }
  | { is: 'copies'; ids: readonly string[] }
  | null;

/** From so many designs on they are sought and sorted. */
const MANY = 2;

export function WorkroomPage() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { cards, state, removed, message, brought, kept, stale, happened } = useAppSelector(
    (s) => s.workroom,
  );
  const waiting = useAppSelector(waitingDesigns);
  const isNew = useAppSelector((s) => s.habits.isNew);
  const [over, setOver] = useState<Over>(null);
  const [drops, setDrops] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const search = useRef<HTMLInputElement>(null);
  const scroller = useKeptScroll('workroom', state !== 'loading');
  const [{ text, tag, order }, seekBy] = useSought();

  useEffect(() => {
    document.title = 'Workroom – Cordelina';
  }, []);

  // Listed at once, and again a moment after something may have happened unheard.
  useEffect(() => {
    const timer = setTimeout(() => void dispatch(loadCards()), happened ? 300 : 0);
    return () => clearTimeout(timer);
  }, [dispatch, happened]);
  // What happened to one design asks for its card alone.
  useEffect(() => {
    if (!stale.length) return;
    const timer = setTimeout(() => void dispatch(freshCards()), 300);
    return () => clearTimeout(timer);
  }, [dispatch, stale]);

  const imported = useCallback((chosen: readonly File[]) => {
    if (chosen.length) setOver({ is: 'files', files: chosen });
  }, []);
  useGivenFiles(imported);

  const tags = useMemo(() => tagsOf(cards), [cards]);
  const found = useMemo(() => seek(cards, { text, tag, order }), [cards, text, tag, order]);
  const close = () => setOver(null);
  useOffer('Workroom', [
    command('new-design', 'New design', 'Workroom', () => setOver({ is: 'new', from: 'cloth' }), 'N'),
    {
      id: 'from-file',
      label: 'Bring designs in from files',
      keys: [],
      group: 'Workroom',
      run: () => file.current?.click(),
    },
    command('from-words', 'New design from words', 'Workroom', () => void navigate('/import')),
    {
      id: 'seek',
      label: 'Seek a design',
      keys: ['/'],
      group: 'Workroom',
      run: () => {
        search.current?.focus();
        search.current?.select();
      },
    },
    command('walk', 'Walk through the bench', 'Workroom', () =>
      dispatch(beginWalk()).then((to) => to && navigate(to)),
    ),
    command('save-copies', 'Save copies of these designs as files', 'Workroom', () =>
      setOver({ is: 'copies', ids: found.map(({ card }) => card.id) }),
    ),
    command('backup', 'Backup of the workroom: save or restore', 'Workroom', () => setOver({ is: 'backup' })),
    command('basket', 'Basket: what was taken out', 'Workroom', () => setOver({ is: 'basket' })),
    ...cards.map(({ id, title }) =>
      command(`open ${id}`, `Open ${title}`, 'Workroom', () => void navigate(`/designs/${id}`)),
    ),
  ]);

  const linesOf = (card: Card): MenuLines => [
    [
      { label: 'Rename', keys: 'F2', run: () => setOver({ is: 'rename', card }) },
      { label: 'Tags …', run: () => setOver({ is: 'tags', card }) },
      { label: 'Duplicate', run: () => void dispatch(duplicate(card.id)) },
      { label: 'Save a copy as a file …', run: () => setOver({ is: 'copies', ids: [card.id] }) },
    ],
    [{ label: 'Take out of the workroom', keys: 'Del', run: () => void dispatch(takeOut(card)) }],
  ];

  const isFile = (e: DragEvent) => e.dataTransfer.types.includes('Files');
  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(e) => {
        if (!isFile(e)) return;
        e.preventDefault();
        setDrops(true);
      }}
      onDragLeave={(e) => {
        if (!e.currentTarget.contains(e.relatedTarget as Node | null)) setDrops(false);
      }}
      onDrop={(e) => {
        if (!isFile(e)) return;
        e.preventDefault();
        setDrops(false);
        imported([...e.dataTransfer.files]);
      }}
    >
      <Header>
        <nav aria-label="Rooms of the studio" className="ml-auto">
          <Link
            to="/swatches"
            title="Swatch book"
            className="grid h-8 place-items-center rounded-sm px-2.5 text-[14px] whitespace-nowrap hover:bg-wash touch:h-11 max-md:min-w-11 max-md:px-1"
          >
            <BookOpen size={17} aria-hidden className="md:hidden" />
            <span className="max-md:sr-only">Swatch book</span>
          </Link>
        </nav>
        <ThemeButton />
        <div className="flex gap-2 max-md:gap-1">
          <Button onClick={() => file.current?.click()}>
            <FileUp size={16} aria-hidden /> <span className="max-md:sr-only">From a file</span>
          </Button>
          <Button onClick={() => void navigate('/import')}>
            <TextQuote size={16} aria-hidden /> <span className="max-md:sr-only">From words</span>
          </Button>
          <Button tone="main" onClick={() => setOver({ is: 'new', from: 'cloth' })}>
            <Plus size={16} aria-hidden /> <span className="max-md:sr-only">New design</span>
          </Button>
          <FileInput
            ref={file}
            multiple
            label="Bring designs in from files"
            accept=".json,.csv,.xlsx,.zip,.txt,.md,application/json,text/csv,text/plain,image/png,image/jpeg,image/webp,.pdf,application/pdf"
            onFiles={imported}
          />
        </div>
      </Header>
      <main ref={scroller} tabIndex={-1} className="flex-1 overflow-auto px-6 py-5 outline-none max-md:px-4">
        <div className="mx-auto max-w-[1180px] min-[1900px]:max-w-[1780px]">
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <h1 className="text-[26px] font-semibold">Workroom</h1>
            {cards.length >= MANY && (
              <search className="flex flex-1 flex-wrap items-center justify-end gap-2 max-md:basis-full max-md:justify-between">
                <span role="status" className="text-[14px] whitespace-nowrap text-slate">
                  {text || tag
                    ? `${found.length} of ${counted(cards.length, 'design')}`
                    : counted(cards.length, 'design')}
                </span>
                <span className="relative w-[260px] max-md:order-last max-md:w-full">
                  <Search
                    size={15}
                    aria-hidden
                    className="absolute top-1/2 left-2 -translate-y-1/2 text-slate"
                  />
                  <Input
                    ref={search}
                    type="search"
                    className="pl-7"
                    aria-label="Seek a design"
                    aria-keyshortcuts="/"
                    placeholder="Title, words, stitches  ( / )"
                    value={text}
                    maxLength={200}
                    onChange={(e) => seekBy({ text: e.target.value })}
                    onKeyDown={(e) => {
                      if (e.key === 'Escape') {
                        e.preventDefault();
                        if (text) seekBy({ text: '' });
                        else giveBack(e.currentTarget);
                      }
                      if (e.key === 'Enter' || e.key === 'ArrowDown') {
                        e.preventDefault();
                        document.querySelector<HTMLElement>('[data-card][tabindex="0"]')?.focus();
                      }
                    }}
                  />
                </span>
                {tags.length > 0 && (
                  <Select
                    aria-label="Tag"
                    className="max-w-[150px]"
                    value={tag ?? ''}
                    onChange={(e) => seekBy({ tag: e.target.value || null })}
                  >
                    <option value="">All tags</option>
                    {tags.map(([name, designs]) => (
                      <option key={name} value={name}>{`${name} (${designs})`}</option>
                    ))}
                  </Select>
                )}
                <Select
                  aria-label="Order"
                  className="max-w-[170px]"
                  value={order}
                  onChange={(e) => seekBy({ order: ORDERS[e.target.selectedIndex]![0] })}
                >
                  {ORDERS.map(([id, name]) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </Select>
                <Button tone="quiet" onClick={() => setOver({ is: 'basket' })}>
                  <Trash2 size={15} aria-hidden /> <span className="max-md:sr-only">Basket</span>
                </Button>
                <Button tone="quiet" onClick={() => setOver({ is: 'backup' })}>
                  <Archive size={15} aria-hidden /> <span className="max-md:sr-only">Backup</span>
                </Button>
              </search>
            )}
          </div>
          {isNew && state === 'ready' && (
            <p className="mt-3 flex flex-wrap items-center gap-x-3 gap-y-1 border-l-[3px] border-woad bg-chalk px-3 py-2">
              New here? A walk of three minutes leads through the bench, on a small design of its own.
              <span className="ml-auto flex gap-2">
                <Button onClick={() => void dispatch(beginWalk()).then((to) => to && navigate(to))}>
                  Take the walk
                </Button>
                <Button tone="quiet" onClick={() => dispatch(habits.changed({ isNew: false }))}>
                  No, thank you
                </Button>
              </span>
            </p>
          )}
          {state === 'loading' && <p className="mt-4 text-slate">Opening the workroom …</p>}
          {state === 'away' && (
            <p role="alert" className="mt-3 text-slate">
              The server is away. {cards.length > 0 && 'This is the workroom as it was last seen. '}
              What you make or change is kept in this browser and sent when the server is back.{' '}
              <button type="button" className="underline" onClick={() => void dispatch(loadCards())}>
                Try again
              </button>
            </p>
          )}
          {state === 'ready' && cards.length === 0 && (
            <Suspense>
              <Begin
                onDraw={() => setOver({ is: 'new', from: 'cloth' })}
                onWords={() => void navigate('/import')}
                onMotif={() => setOver({ is: 'new', from: 'motif' })}
                onFile={() => file.current?.click()}
                onBasket={() => setOver({ is: 'basket' })}
                onBackup={() => setOver({ is: 'backup' })}
              />
            </Suspense>
          )}
          {cards.length > 0 && found.length === 0 && (
            <p className="mt-6">
              No design has {text ? `"${text}"` : 'that'}
              {tag && ` under the tag ${tag}`}.{' '}
              <button
                type="button"
                className="underline underline-offset-2"
                onClick={() => seekBy({ text: '', tag: null })}
              >
                Show all
              </button>
            </p>
          )}
          <Shelf found={found} scroller={scroller}>
            {(one, inReach, take) => (
              <DesignCard
                found={one}
                waits={waiting.has(one.card.id)}
                opens={state !== 'away' || kept.includes(one.card.id)}
                inReach={inReach}
                lines={linesOf(one.card)}
                onFocus={take}
              />
            )}
          </Shelf>
          {lacking().map((said) => (
            <p key={said} className="mt-6 text-[13.5px] text-slate">
              {said}
            </p>
          ))}
        </div>
      </main>
      {drops && (
        <div className="pointer-events-none fixed inset-3 z-30 grid place-content-center border-2 border-dashed border-peat bg-fleece/85">
          <p className="font-serif text-[22px] font-semibold">Let go to bring it into the workroom</p>
          <p className="text-center text-slate">
            Documents, workbooks, tables, zips of them; patterns in words
          </p>
        </div>
      )}
      {(removed || message || brought.length > 0) && (
        <div
          role="status"
          className="fixed bottom-5 left-1/2 z-20 flex max-w-[94vw] -translate-x-1/2 items-center gap-4 rounded-sm bg-peat px-4 py-2 text-chalk shadow-sheet"
        >
          {message ??
            (removed
              ? `"${removed.title}" was taken out. It lies in the basket.`
              : `${counted(brought.length, 'design')} brought in.`)}
          {!removed && !message && (
            <button
              type="button"
              className="underline underline-offset-4"
              onClick={() => void dispatch(takeOutAgain(brought))}
            >
              Take {brought.length === 1 ? 'it' : 'them'} out again
            </button>
          )}
          {removed && !message && (
            <button
              type="button"
              className="underline underline-offset-4"
              onClick={() => void dispatch(putBack(removed.id))}
            >
              Put it back
            </button>
          )}
          <button
            type="button"
            aria-label="Close this message"
            className="grid h-6 w-6 shrink-0 place-items-center"
            onClick={() => {
              dispatch(workroom.putBack());
              dispatch(workroom.broughtIn([]));
              dispatch(workroom.told(null));
            }}
          >
            <X size={16} aria-hidden />
          </button>
        </div>
      )}
      <Suspense>
        {over?.is === 'new' && <NewDesign open from={over.from} onOpenChange={close} />}
        {over?.is === 'backup' && <Backup onClose={close} />}
        {over?.is === 'basket' && <Basket onClose={close} />}
        {over?.is === 'files' && <BringIn files={over.files} onClose={close} />}
        {over?.is === 'copies' && <SaveCopy ids={over.ids} onClose={close} />}
        {over?.is === 'tags' && (
          <TagsDialog
            card={over.card}
            known={tags.map(([name]) => name)}
            onClose={close}
            onTags={(now) => void dispatch(setTags(over.card.id, now))}
          />
        )}
        {over?.is === 'rename' && (
          <NameDialog
            title="Rename"
            action="Rename"
            label="Title"
            initial={over.card.title}
            most={120}
            missing="A design needs a title."
            onClose={close}
            onName={(title) => void dispatch(rename(over.card.id, title))}
          />
        )}
      </Suspense>
    </div>
  );
}
