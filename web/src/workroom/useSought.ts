import { useState } from 'react';
import { ORDERS, type Sought } from './seek.js';

function asked(): Sought {
  const params = new URLSearchParams(window.location.search);
  return {
    text: params.get('q') ?? '',
    tag: params.get('tag'),
    order: ORDERS.find(([id]) => id === params.get('order'))?.[0] ?? 'touched',
  };
}

/** What is sought in the workroom. It stands in the address, for Back, a reload or a link; the router is not asked. */
export function useSought(): [Sought, (change: Partial<Sought>) => void] {
  const [sought, setSought] = useState(asked);
  const change = (by: Partial<Sought>) => {
    const now = { ...sought, ...by };
    setSought(now);
    const address = new URL(window.location.href);
    const { text, tag, order } = now;
    for (const [name, value] of [
      ['q', text],
      ['tag', tag],
      ['order', order === 'touched' ? null : order],
    ] as const)
      if (value) address.searchParams.set(name, value);
      else address.searchParams.delete(name);
    window.history.replaceState(window.history.state, '', address);
  };
  return [sought, change];
}
