/**
 * Where the hands are: what has the keys. Whatever closes gives them back to where they were, and what is taken from under them
 * leaves them to what stands in its place: they never fall to the page as a whole.
 */

/** An element that had the keys, and each place above it: the parent, and the how-manieth child led there. */
interface Held {
  element: HTMLElement;
  /** It was clicked, not come to by the keys. */
  isClicked: boolean;
  above: { parent: Element; at: number }[];
}

/** The last of them is the newest. */
let held: Held[] = [];
const MOST_HELD = 24;

const CAN_HAVE_KEYS =
  'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), summary, [tabindex]:not([tabindex="-1"])';

const isShown = (element: Element): boolean => element.getClientRects().length > 0;

const canHaveKeys = (element: Element): element is HTMLElement =>
  element instanceof HTMLElement && element.matches(`${CAN_HAVE_KEYS}, [tabindex]`) && isShown(element);

/** The element, or the first in it, that can have the keys. */
const firstIn = (element: Element | undefined): HTMLElement | null => {
  if (!element) return null;
  if (element.matches(CAN_HAVE_KEYS) && canHaveKeys(element)) return element;
  return [...element.querySelectorAll<HTMLElement>(CAN_HAVE_KEYS)].find(isShown) ?? null;
};

function placesAbove(element: Element): Held['above'] {
  const above: Held['above'] = [];
  for (let at = element; at.parentElement && at.parentElement !== document.body; at = at.parentElement)
    above.push({ parent: at.parentElement, at: [...at.parentElement.children].indexOf(at) });
  return above;
}

/** What stands now where an element stood that is gone. */
function inPlaceOf({ above }: Held): HTMLElement | null {
  for (const { parent, at } of above) {
    if (!parent.isConnected) continue;
    // Beyond the part of the page it stood in is no place of its own.
    if (parent.matches('main, #root')) return null;
    const here = firstIn(parent.children[at]) ?? firstIn(parent.children[at - 1]) ?? firstIn(parent);
    if (here) return here;
    if (canHaveKeys(parent)) return parent;
  }
  return null;
}

const chart = (): HTMLElement | null => document.querySelector<HTMLElement>('[data-keys]');

/** The stage of the room: its chart where it has one, else its main part. */
const stage = (): HTMLElement | null => chart() ?? document.querySelector<HTMLElement>('main');

/** The hands are on their way to a room that is not there yet. */
let areAwaited = false;

/** Past the head of the page, to what lies in the room; while that is still being opened, as soon as it is there. */
export function toStage(): void {
  const there = stage();
  areAwaited = !there;
  there?.focus();
}

/**
 * Gives the keys to whatever had them last outside of what closes. Who clicked a button beside a chart works on the chart: it is
 * given them.
 */
export function giveBack(closing: Element | null = null): void {
  const isOver = ({ element, above }: Held) =>
    closing !== null && (closing.contains(element) || above.some(({ parent }) => parent === closing));
  for (const one of held.toReversed()) {
    if (isOver(one)) continue;
    const there = one.element.isConnected ? canHaveKeys(one.element) && one.element : inPlaceOf(one);
    if (!there) continue;
    const isBeside = one.isClicked && there.matches('button') && chart();
    return (isBeside || there).focus({ preventScroll: true });
  }
  stage()?.focus({ preventScroll: true });
}

/** What every sheet, menu and popover does with the keys when it has closed: one that was opened meanwhile has them. */
export function onClosed(e: Event): void {
  e.preventDefault();
  if (!document.querySelector('[role=dialog][data-state=open]')) giveBack(e.target as Element);
}

/** Whether the pointer did the last thing that was done. */
let byPointer = false;

function onFocus({ target }: FocusEvent): void {
  if (!(target instanceof HTMLElement) || target === document.body) return;
  areAwaited = false;
  const now: Held = { element: target, isClicked: byPointer, above: placesAbove(target) };
  held = [...held.filter(({ element }) => element !== target), now];
  if (held.length > MOST_HELD) held = held.slice(-MOST_HELD);
}

/** Whether what had the keys is no longer there, and nothing else has them. */
const areEmpty = (): boolean =>
  (!document.activeElement || document.activeElement === document.body) &&
  held.at(-1)?.element.isConnected === false;

/** Once what the key that did it does is done: else that would be done to what comes in its place. */
function look(): void {
  if (areAwaited && stage()) return toStage();
  if (areEmpty()) setTimeout(mend);
}

function mend(): void {
  if (!areEmpty()) return;
  const last = held.at(-1)!;
  // A sheet that closes says itself where they go.
  if (last.element.closest('[role=dialog], [role=menu]')) return;
  (inPlaceOf(last) ?? stage())?.focus({ preventScroll: true });
}

/** Begins to look where the hands are. */
export function watchHands(): void {
  document.addEventListener('pointerdown', () => (byPointer = true), true);
  document.addEventListener('keydown', () => (byPointer = false), true);
  document.addEventListener('focusin', onFocus);
  new MutationObserver(look).observe(document.body, { childList: true, subtree: true });
}
