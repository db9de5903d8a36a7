import { HappeningSchema, type Happening } from '@cordelina/core';
import type { AppDispatch, RootState } from './index.js';
import { outbox } from './outbox.js';
import { pull, sendAll } from './post.js';
import { workroom } from './workroom.js';

/**
 * What the server tells of designs, as server-sent events. A browser opens only so many connections to a server,
 * so of all tabs one listens, holding a lock, and tells the others.
 */

/** The connection was made, or made again: something may have been missed. */
type Told = Happening | { kind: 'connected' };

const NAME = 'cordelina-events';

interface Store {
  dispatch: AppDispatch;
  getState: () => RootState;
}

function hear(told: Told, { dispatch, getState }: Store): void {
  if (told.kind === 'connected') {
    void dispatch(sendAll());
    return void dispatch(workroom.outdated());
  }
  const { id, version = 0 } = told;
  dispatch(workroom.outdated());
  const box = getState().outbox[id];
  if (!box) return;
  if (told.kind === 'taken-out') return void dispatch(outbox.notSaved({ id, save: { kind: 'gone' } }));
  dispatch(outbox.heard({ id, version }));
  // While a save is under way its answer tells the rest.
  if (box.save.kind !== 'saving' && (version > box.base || told.kind === 'put-back')) void dispatch(pull(id));
}

/** Listens for as long as the page lives. */
export function listen(store: Store): void {
  const channel = new BroadcastChannel(NAME);
  channel.onmessage = ({ data }) => {
    const parsed = HappeningSchema.safeParse(data);
    if (parsed.success) hear(parsed.data, store);
    else if ((data as { kind?: unknown } | null)?.kind === 'connected') hear({ kind: 'connected' }, store);
  };
  const tell = (told: Told) => {
    channel.postMessage(told);
    hear(told, store);
  };
  const connect = (): EventSource => {
    const source = new EventSource('/api/events');
    source.onopen = () => tell({ kind: 'connected' });
    source.onmessage = ({ data }) => {
      try {
        tell(HappeningSchema.parse(JSON.parse(String(data))));
      } catch {
        // A newer server may tell of more than this page knows.
      }
    };
    return source;
  };
  if (navigator.locks) void navigator.locks.request(NAME, () => new Promise(() => void connect()));
  else if (document.visibilityState === 'visible') connect();
  // The browser itself tells when the network is back.
  addEventListener('online', () => void store.dispatch(sendAll()));
}
