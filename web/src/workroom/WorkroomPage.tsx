import { CARD_PICTURE, counted, pictureAt, wayOf, type Card, type Summary } from '@cordelina/core';
import { formatDistanceToNowStrict } from 'date-fns';
import { FileUp, MoreHorizontal, Plus, TextQuote } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useCallback, useEffect, useRef, useState, lazy, Suspense } from 'react';
import { Link, useNavigate } from 'react-router';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { Header } from '../desk/head/Header.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { workroom } from '../desk/state/workroom.js';
import { NameDialog } from '../ui/NameDialog.js';
import { Button } from '../ui/Button.js';
import { download, duplicate, importFile, loadCards, putBack, rename, takeOut } from '../desk/designs.js';

/** The dialog and the motifs in it are fetched when they are first asked for: the page of cards stands without. */
const fetchNewDesign = async () => ({ default: (await import('./NewDesign.js')).NewDesign });
const NewDesign = lazy(fetchNewDesign);

/** The page knits a picture itself only where the server has none. */
const Thumbnail = lazy(async () => ({ default: (await import('../ui/fabric/Thumbnail.js')).Thumbnail }));

export function WorkroomPage() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { cards, state, removed, message, waiting, kept, happened } = useAppSelector((s) => s.workroom);
  const [making, setMaking] = useState(false);
  const [renaming, setRenaming] = useState<Card | null>(null);
  const file = useRef<HTMLInputElement>(null);

  useEffect(() => {
    document.title = 'Workroom – Cordelina';
  }, []);

  // Listed at once, and again a moment after something happened elsewhere.
  useEffect(() => {
    const timer = setTimeout(() => void dispatch(loadCards()), happened ? 300 : 0);
    return () => clearTimeout(timer);
  }, [dispatch, happened]);

  const imported = useCallback(
    async (chosen: File | undefined) => {
      const id = chosen && (await dispatch(importFile(chosen)));
      if (id) void navigate(`/designs/${id}`);
    },
    [dispatch, navigate],
  );

  useOffer('Workroom', [
    command('new-design', 'New design', 'Workroom', () => setMaking(true), 'N'),
    {
      id: 'from-file',
      label: 'New design from a file',
      keys: [],
      group: 'Workroom',
      run: () => file.current?.click(),
    },
    ...cards.map(({ id, title }) =>
      command(`open ${id}`, `Open ${title}`, 'Workroom', () => void navigate(`/designs/${id}`)),
    ),
  ]);
  return (
    <div className="flex h-full flex-col">
      <Header>
        <nav aria-label="Rooms of the studio" className="ml-auto">
          <Link to="/swatches" className="rounded-sm px-2.5 max-md:px-0 py-1.5 text-[14px] hover:bg-wash">
            Swatch book
          </Link>
        </nav>
        <div className="flex gap-2 max-md:gap-1">
          <Button onClick={() => file.current?.click()}>
            <FileUp size={16} aria-hidden /> <span className="max-md:sr-only">From a file</span>
          </Button>
          <Button onClick={() => void navigate('/import')}>
            <TextQuote size={16} aria-hidden /> <span className="max-md:sr-only">From words</span>
          </Button>
          <Button tone="main" onClick={() => setMaking(true)}>
            <Plus size={16} aria-hidden /> <span className="max-md:sr-only">New design</span>
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            className="hidden"
            aria-label="Import a design from a file"
            onChange={(e) => {
              void imported(e.target.files?.[0]);
              e.target.value = '';
            }}
          />
        </div>
      </Header>
      <main className="flex-1 overflow-auto px-6 py-5">
        <div className="mx-auto max-w-[1180px]">
          <h1 className="text-[26px] font-semibold">Workroom</h1>
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
            <div className="mt-10 grid justify-items-start gap-3">
              <p>
                The workroom is empty. Begin with a cloth, read a pattern from its words, or bring a design in
                from a file.
              </p>
              <Button tone="main" onClick={() => setMaking(true)}>
                New design
              </Button>
            </div>
          )}
          <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(268px,1fr))] gap-5 max-md:grid-cols-[repeat(auto-fill,280px)] max-md:justify-center">
            {cards.map((card) => (
              <DesignCard
                key={card.id}
                card={card}
                waits={waiting.includes(card.id)}
                opens={state !== 'away' || kept.includes(card.id)}
                onRename={() => setRenaming(card)}
              />
            ))}
          </ul>
        </div>
      </main>
      {(removed || message) && (
        <div
          role="status"
          className="fixed bottom-5 left-1/2 flex -translate-x-1/2 items-center gap-4 rounded-sm bg-peat px-4 py-2 text-chalk shadow-sheet"
        >
          {message ?? `"${removed?.title}" was taken out of the workroom.`}
          {removed && !message && (
            <button
              type="button"
              className="underline underline-offset-4"
              onClick={() => void dispatch(putBack())}
            >
              Put it back
            </button>
          )}
          <button
            type="button"
            aria-label="Close this message"
            onClick={() => {
              dispatch(workroom.putBack());
              dispatch(workroom.told(null));
            }}
          >
            ✕
          </button>
        </div>
      )}
      {making && (
        <Suspense>
          <NewDesign open onOpenChange={setMaking} />
        </Suspense>
      )}
      {renaming && (
        <NameDialog
          title="Rename"
          action="Rename"
          label="Title"
          initial={renaming.title}
          most={120}
          missing="A design needs a title."
          onClose={() => setRenaming(null)}
          onName={(title) => void dispatch(rename(renaming.id, title))}
        />
      )}
    </div>
  );
}

const ITEM = 'cursor-pointer rounded-sm px-3 py-1.5 outline-none data-highlighted:bg-wash';

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

function DesignCard({
  card,
  waits,
  opens,
  onRename,
}: {
  card: Card;
  waits: boolean;
  opens: boolean;
  onRename: () => void;
}) {
  const dispatch = useAppDispatch();
  const { summary } = card;
  const state = stateOf(card, waits, opens);
  return (
    <li className="relative border border-rule bg-chalk shadow-sheet transition-[border-color] duration-100 focus-within:border-peat hover:border-peat">
      <Link to={`/designs/${card.id}`} className="block overflow-hidden" aria-label={card.title}>
        {summary ? <CardPicture card={card} summary={summary} /> : <div className="h-[176px] bg-wash" />}
        <div className="border-t border-rule px-3.5 pt-2.5 pb-3">
          <h2 className="truncate pr-8 text-[18px] font-semibold">{card.title}</h2>
          <p className="text-[13.5px] text-slate">
            {summary
              ? `${summary.columns} × ${summary.rows}, ${wayOf(summary).worked}, cast on ${summary.castOn}`
              : '…'}
          </p>
          <p className="mt-1 flex justify-between text-[13.5px]">
            <span className={state.tone}>{state.text}</span>
            <span className="text-slate">{formatDistanceToNowStrict(new Date(card.savedAt))} ago</span>
          </p>
        </div>
      </Link>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={`More for ${card.title}`}
          className="absolute right-2 bottom-[56px] grid h-8 w-8 place-items-center rounded-sm hover:bg-wash"
        >
          <MoreHorizontal size={18} aria-hidden />
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            className="z-30 min-w-[180px] rounded-sm border border-slate/40 bg-chalk p-1 shadow-sheet"
          >
            <DropdownMenu.Item className={ITEM} onSelect={onRename}>
              Rename
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void dispatch(duplicate(card.id))}>
              Duplicate
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void dispatch(download(card.id))}>
              Export as a file
            </DropdownMenu.Item>
            <DropdownMenu.Item className={ITEM} onSelect={() => void dispatch(takeOut(card))}>
              Take out of the workroom
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

/** The cloth of a card, as the server pictures it; of a design it does not have, or while it is away, as the page knits it. */
function CardPicture({ card, summary }: { card: Card; summary: Summary }) {
  const { id, summaryVersion } = card;
  const [missing, setMissing] = useState<number | null>(null);
  if (summaryVersion === null || missing === summaryVersion)
    return (
      <Suspense fallback={<div className="h-[176px] bg-board" />}>
        <Thumbnail preview={summary.preview} {...CARD_PICTURE} dye={summary} />
      </Suspense>
    );
  return (
    <img
      src={pictureAt(id, summaryVersion)}
      {...CARD_PICTURE}
      alt=""
      loading="lazy"
      decoding="async"
      data-testid="card-picture"
      className="block h-[176px] w-full bg-board object-cover"
      onError={() => setMissing(summaryVersion)}
    />
  );
}
