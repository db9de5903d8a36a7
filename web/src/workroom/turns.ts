/**
 * Pictures that are fetched in turns. The server may have to make them first, and a browser opens six connections to a server: were
 * all of them held by pictures, no other room could be entered meanwhile.
 */
const AT_ONCE = 2;

let running = 0;
const waiting = new Set<() => void>();

function goOn(): void {
  for (const begin of waiting) {
    if (running >= AT_ONCE) return;
    waiting.delete(begin);
    running++;
    begin();
  }
}

/** Begins when it is its turn, at once where nobody waits. What is given back ends the turn, or the waiting for it; once. */
export function takeTurn(work: () => void): () => void {
  let isOver = false;
  // One's own, should the same work ask twice.
  const begin = () => work();
  waiting.add(begin);
  goOn();
  return () => {
    if (isOver) return;
    isOver = true;
    if (!waiting.delete(begin)) running--;
    goOn();
  };
}
