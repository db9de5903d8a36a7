import { TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { Link, useLocation } from 'react-router';
import { onBench, undo } from '../state/editing.js';
import { useAppDispatch, useAppSelector } from '../state/index.js';
import { Button } from '../../ui/Button.js';
import { NotFetched } from './fetched.js';
import { saveFile } from '../../ui/save-file.js';

/**
 * What a room shows when something in it has failed, in place of a blank page. Nothing of the design is lost by it: what was done
 * lies in the outbox, which no room holds; and the ways out lead on from there. Another room, or the same one after a change, is
 * tried anew by itself.
 */
export function RoomBoundary({ children }: { children: ReactNode }) {
  const { pathname } = useLocation();
  const document = useAppSelector((s) => onBench(s)?.document);
  return (
    <ErrorBoundary
      FallbackComponent={Failed}
      resetKeys={[pathname, document]}
      onError={(error) => console.error('A room has failed.', error)}
    >
      {children}
    </ErrorBoundary>
  );
}

function Failed({ error, resetErrorBoundary }: FallbackProps) {
  // What could not be fetched once is not asked for again by the same page.
  const again = error instanceof NotFetched ? () => window.location.reload() : resetErrorBoundary;
  const dispatch = useAppDispatch();
  const box = useAppSelector(onBench);
  const last = box?.done.at(-1);
  const said = error instanceof Error ? error.message : String(error);
  const saveCopy = () =>
    box &&
    saveFile(
      new Blob([JSON.stringify(box.document, null, 1)], { type: 'application/json' }),
      `${box.document.title} copy`,
      'json',
    );
  return (
    <main tabIndex={-1} className="outline-none grid flex-1 place-content-center overflow-auto px-6 py-10">
      <div role="alert" className="grid max-w-[560px] gap-4 border border-rule bg-chalk p-6 shadow-sheet">
        <h1 className="flex items-center gap-2.5 text-[20px] font-semibold">
          <TriangleAlert size={20} className="shrink-0 text-madder" aria-hidden />
          This room has failed
        </h1>
        <p>
          {box
            ? 'That is a fault of this program. Nothing you did is lost: every change is kept, and the other rooms go on.'
            : 'That is a fault of this program. Nothing that was saved is lost by it.'}
        </p>
        <div className="flex flex-wrap gap-2">
          <Button tone="main" onClick={again}>
            Try again
          </Button>
          {last && (
            <Button
              onClick={() => {
                dispatch(undo());
                resetErrorBoundary();
              }}
            >
              Go back one change: {last.label}
            </Button>
          )}
          {box && <Button onClick={saveCopy}>Save a copy</Button>}
          <Link to="/" className="self-center px-1 text-peat underline underline-offset-2">
            To the workroom
          </Link>
        </div>
        <details className="text-[14px] text-slate">
          <summary className="cursor-pointer">What happened</summary>
          <p className="mt-1 font-mono text-[12.5px] break-words">{said}</p>
        </details>
      </div>
    </main>
  );
}
