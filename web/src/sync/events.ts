import { HappeningSchema, type Happening } from '@cordelina/core';

/**
 * What the server tells of documents, as server-sent events. A browser opens only so many connections to a server,
 * so of all tabs one listens, holding a lock, and tells the others.
 */

/** The connection was made, or made again: something may have been missed. */
export type Told = Happening | { kind: 'connected' };

const NAME = 'cordelina-events';

/** Listens for as long as the page lives. `online` is called when the browser says that the network is back. */
export function listen(hear: (told: Told) => void, online: () => void): void {
  const channel = new BroadcastChannel(NAME);
  channel.onmessage = ({ data }) => {
    const parsed = HappeningSchema.safeParse(data);
    if (parsed.success) hear(parsed.data);
    else if ((data as { kind?: unknown } | null)?.kind === 'connected') hear({ kind: 'connected' });
  };
  const tell = (told: Told) => {
    channel.postMessage(told);
    hear(told);
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
  addEventListener('online', online);
}
