import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { bench } from '../state/bench.js';
import { onBench } from '../state/editing.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';
import { layDownAnew, startOver } from '../../sync/post.js';
import { Button } from '../../ui/Button.js';
import { Choices } from './Choices.js';

/** What stands between this browser's work and the server's, with the ways out of it. */
export function Notices() {
  const box = useAppSelector(onBench);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [choosing, setChoosing] = useState(false);
  const [busy, setBusy] = useState(false);
  if (!box) return null;
  const layDown = async () => {
    setBusy(true);
    const id = await dispatch(layDownAnew(box.id));
    setBusy(false);
    if (id) void navigate(`/designs/${id}`);
  };
  const anew = (
    <Button tone="main" disabled={busy} onClick={() => void layDown()}>
      Lay it down as a new design
    </Button>
  );
  return (
    <>
      {box.save.kind === 'gone' && (
        <Notice
          text={`This design was taken out of the workroom elsewhere. ${
            box.unsaved.length ? 'What you did since is kept here.' : 'It can still be had as you see it.'
          }`}
        >
          {anew}
        </Notice>
      )}
      {box.save.kind === 'refused' && (
        <Notice text={`The server does not take the last edits: ${box.save.message} They are kept here.`}>
          <Button disabled={busy} onClick={() => void dispatch(startOver(box.id))}>
            Go back to what is saved
          </Button>
          {anew}
        </Notice>
      )}
      {box.choices.length > 0 && (
        <Notice
          text={`Changed here and elsewhere in the same places (${box.choices.length}). What was saved elsewhere stands for now; what you did is kept.`}
        >
          <Button tone="main" onClick={() => setChoosing(true)}>
            Choose what is to stand
          </Button>
        </Notice>
      )}
      {choosing && box.choices.length > 0 && (
        <Choices box={box} onSaid={(said) => dispatch(bench.said(said))} onClose={() => setChoosing(false)} />
      )}
    </>
  );
}

/**
 * Lies over the page at its upper right and moves nothing that someone is working on. Put off, it leaves a word to
 * call it back by.
 */
export function Notice({ text, children }: { text: string; children: ReactNode }) {
  const [off, setOff] = useState(false);
  const place = 'no-print fixed top-[92px] right-[52px] z-20 border border-madder bg-chalk shadow-sheet';
  if (off)
    return (
      <button
        type="button"
        onClick={() => setOff(false)}
        className={`${place} rounded-sm px-3 py-1 text-madder`}
      >
        Something to decide
      </button>
    );
  return (
    <div role="alert" className={`${place} grid w-[400px] max-w-[90vw] gap-3 rounded-sm p-4`}>
      <p>{text}</p>
      <div className="flex flex-wrap justify-end gap-2">
        <Button tone="quiet" onClick={() => setOff(true)}>
          Later
        </Button>
        {children}
      </div>
    </div>
  );
}
