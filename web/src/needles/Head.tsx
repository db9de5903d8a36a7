import type { Edition } from '@cordelina/core';
import { ArrowLeft, Menu, NotebookPen, Volume2 } from 'lucide-react';
import { useEffect, useMemo } from 'react';
import { Link } from 'react-router';
import { useAppSelector } from '../desk/state/index.js';
import { type Outbox } from '../sync/outbox.js';
import { IconButton } from '../ui/Button.js';
import { ButtonMenu } from '../ui/Menu.js';
import { useProof } from '../workers/useProof.js';
import { inHer } from './useJob.js';

/** Sizes of the words, in pixels. */
export const SIZES = [18, 24, 32, 42, 56] as const;

export type Sheet = 'undo' | 'which' | 'note' | 'log' | null;

/** What is knitted and by whom, whether its place is kept, and how the room looks. */
export function Head({
  box,
  edition,
  onSheet,
  look,
  isAwake,
  beds,
}: {
  box: Outbox<'knitting'>;
  edition: Edition;
  onSheet: (sheet: Sheet) => void;
  look: (patch: object) => void;
  isAwake: boolean;
  beds: boolean;
}) {
  const { needles: looks } = useAppSelector((s) => s.habits);
  const keeping = useAppSelector((s) => s.browser.keeping);
  const { document: knitting, save } = box;
  const { proved } = useProof(
    useMemo(() => inHer(edition.document, knitting.hand), [edition, knitting.hand]),
  );
  useEffect(() => {
    document.title = `${knitting.name}: ${edition.document.title} – Cordelina`;
  }, [knitting.name, edition]);
  const isKept = keeping === 'kept';
  const saved =
    save.kind === 'saved'
      ? isKept
        ? 'kept'
        : 'on the server only'
      : save.kind === 'away'
        ? isKept
          ? 'kept on this device'
          : keeping === 'full'
            ? 'this device is full: only in this open page'
            : 'only in this open page'
        : save.kind === 'refused' || save.kind === 'gone'
          ? 'not saved'
          : 'saving …';
  return (
    <header className="flex h-12 shrink-0 items-center gap-1 border-b border-rule px-1">
      <Link
        to={`/designs/${knitting.design}/needles`}
        aria-label="Back to the design"
        className="grid h-11 w-11 shrink-0 place-items-center rounded-sm hover:bg-wash"
      >
        <ArrowLeft size={20} aria-hidden />
      </Link>
      <div className="min-w-0 flex-1 leading-tight">
        <h1 className="truncate text-[16px] font-semibold">{edition.document.title}</h1>
        <p className="truncate text-[13px] text-slate">
          {knitting.name}, {knitting.knitter} ·{' '}
          <span role="status" data-save={save.kind}>
            {saved}
          </span>
          {proved && (
            <span className={proved.checked ? 'text-lichen' : 'text-madder'}>
              {' '}
              · {proved.checked ? 'proved' : 'not proved'}
            </span>
          )}
        </p>
      </div>
      <IconButton
        name="Read aloud"
        pressed={looks.speaks}
        className="h-11! w-11! max-[360px]:hidden"
        onClick={() => look({ speaks: !looks.speaks })}
      >
        <Volume2 size={19} aria-hidden />
      </IconButton>
      <IconButton
        name="Write down what you notice"
        keys="N"
        className="h-11! w-11!"
        onClick={() => onSheet('note')}
      >
        <NotebookPen size={19} aria-hidden />
      </IconButton>
      <ButtonMenu
        label="At the needles"
        lines={[
          [
            ...(beds ? [] : [{ label: 'Which row am I on?', keys: 'W', run: () => onSheet('which') }]),
            ...(beds ? [] : [{ label: 'Take work back …', keys: 'U', run: () => onSheet('undo') }]),
            { label: 'Write a note …', keys: 'N', run: () => onSheet('note') },
            ...(beds ? [] : [{ label: 'Rows, hours, skeins …', keys: 'L', run: () => onSheet('log') }]),
          ],
          [
            {
              label: 'Larger words',
              run: () => look({ size: Math.min(SIZES.length - 1, looks.size + 1) }),
              disabled: looks.size === SIZES.length - 1,
            },
            {
              label: 'Smaller words',
              run: () => look({ size: Math.max(0, looks.size - 1) }),
              disabled: looks.size === 0,
            },
            {
              label: 'Dark',
              checked: looks.theme === 'dark',
              run: () => look({ theme: looks.theme === 'dark' ? 'light' : 'dark' }),
            },
            {
              label: 'Strip as it faces you',
              checked: looks.strip === 'facing',
              run: () => look({ strip: looks.strip === 'facing' ? 'charted' : 'facing' }),
            },
          ],
          [
            {
              label: 'Buttons for the left thumb',
              checked: looks.thumb === 'left',
              run: () => look({ thumb: looks.thumb === 'left' ? 'both' : 'left' }),
            },
            {
              label: 'Buttons for the right thumb',
              checked: looks.thumb === 'right',
              run: () => look({ thumb: looks.thumb === 'right' ? 'both' : 'right' }),
            },
            { label: 'Read aloud', checked: looks.speaks, run: () => look({ speaks: !looks.speaks }) },
            {
              label:
                isAwake || !looks.awake
                  ? 'Keep the screen awake'
                  : 'Keep the screen awake (the browser does not)',
              checked: looks.awake,
              run: () => look({ awake: !looks.awake }),
            },
          ],
        ]}
      >
        <button
          type="button"
          aria-label="More"
          className="grid h-11 w-11 shrink-0 place-items-center rounded-sm hover:bg-wash"
        >
          <Menu size={20} aria-hidden />
        </button>
      </ButtonMenu>
    </header>
  );
}
