import { useAppSelector } from '../state/index.js';
import { takeNewerPage } from '../../workers/page.js';

/** A newer page was fetched in the background: it is taken when the person says so, since nothing is lost by it. */
export function NewerPage() {
  if (!useAppSelector((s) => s.browser.newerPage)) return null;
  return (
    <div
      role="status"
      className="no-print fixed right-4 bottom-4 z-30 flex items-center gap-3 rounded-sm bg-peat px-4 py-2 text-chalk shadow-sheet"
    >
      A newer Cordelina is here.
      <button type="button" className="underline underline-offset-4" onClick={takeNewerPage}>
        Open it
      </button>
    </div>
  );
}
