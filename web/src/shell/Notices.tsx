import { useState } from 'react';
import { useNavigate } from 'react-router';
import { onBench } from '../store/editing.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { layDownAnew, startOver } from '../store/post.js';
import { Button } from '../ui/Button.js';
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
    if (id) navigate(`/designs/${id}`);
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
          {anew}
          <Button disabled={busy} onClick={() => void dispatch(startOver(box.id))}>
            Go back to what is saved
          </Button>
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
      {choosing && box.choices.length > 0 && <Choices box={box} onClose={() => setChoosing(false)} />}
    </>
  );
}

function Notice({ text, children }: { text: string; children: React.ReactNode }) {
  return (
    <div
      role="alert"
      className="no-print flex items-center gap-3 border-b border-madder bg-chalk px-4 py-1.5"
    >
      <p className="mr-auto">{text}</p>
      {children}
    </div>
  );
}
