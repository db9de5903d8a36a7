import { expect, test, type Page } from '@playwright/test';
import { still } from './helpers.js';
import { ROOMS } from './all-rooms.js';

/** What a walk with the Tab key met, as a person would name it. */
interface Walk {
  steps: number;
  /** Controls that can have the keys and were never given them. */
  missed: string[];
  /** What had the keys without a name, without a ring, or off the screen. */
  wrong: string[];
}

/** A room has no more stops than this: a walk that takes longer is caught in a circle. */
const MOST_STEPS = 400;

/** Goes through the page with the Tab key, from its beginning until the keys are back there. */
async function walk(page: Page): Promise<Walk> {
  await page.evaluate(() => {
    // Of things of which only one has the keys at a time (tabs, radio buttons, lists walked by arrows) that one counts.
    const isStop = (e: HTMLElement) =>
      e.tabIndex >= 0 &&
      !e.matches(':disabled') &&
      !e.closest('[inert]') &&
      e.checkVisibility({ visibilityProperty: true }) &&
      !(e instanceof HTMLInputElement && e.type === 'radio' && !e.checked);
    const nameOf = (e: Element) => {
      const labels =
        e instanceof HTMLInputElement || e instanceof HTMLSelectElement ? [...(e.labels ?? [])] : [];
      const by = (e.getAttribute('aria-labelledby') ?? '')
        .split(' ')
        .map((id) => document.getElementById(id));
      const told = [e.getAttribute('aria-label'), ...[...labels, ...by, e].map((n) => n?.textContent)];
      const shown = [
        e.getAttribute('title'),
        e.getAttribute('placeholder'),
        e.querySelector('[alt]')?.getAttribute('alt'),
      ];
      return (
        [...told, ...shown]
          .find((text) => text?.trim())
          ?.trim()
          .slice(0, 40) ?? ''
      );
    };
    const has = new Map<Element, string>();
    const whatIs = (e: Element) => `${e.tagName.toLowerCase()} ${nameOf(e)}`;
    /** How it is drawn, and what is around and beside it, which may show the ring for it. */
    const lookOf = (e: Element) => {
      const around = e.parentElement!;
      return [e, around, around.parentElement!, ...around.children]
        .flatMap((at) => [getComputedStyle(at), getComputedStyle(at, '::after')])
        .map((style) =>
          [style.outline, style.boxShadow, style.border, style.backgroundColor, style.display].join(),
        )
        .join('|');
    };
    const ALL = 'a[href], button, input, select, textarea, summary, [tabindex]';
    const stops = () => [...document.querySelectorAll<HTMLElement>(ALL)].filter(isStop);
    const looks = new Map(stops().map((e) => [e as Element, e === document.activeElement ? '' : lookOf(e)]));
    /** A row of things walked by arrows gives the keys on to the one of them that has them. */
    const handsOn = (e: Element) =>
      e.matches('[role=tablist], [role=toolbar], [role=radiogroup]') &&
      [...has.keys()].some((at) => e.contains(at));
    /** It was drawn anew since it had the keys. */
    const isAnother = (e: Element) => [...has].some(([at, what]) => !at.isConnected && what === whatIs(e));
    const wrong = new Set<string>();
    /** The keys have come somewhere: whether it is the first time, or null where they have left the page. */
    const came = (): boolean | null => {
      const e = document.activeElement;
      if (!(e instanceof HTMLElement) || e === document.body) return null;
      const isNew = !has.has(e);
      const what = whatIs(e);
      has.set(e, what);
      if (!nameOf(e)) wrong.add(`${e.outerHTML.slice(0, 80)} has no name`);
      const box = e.getBoundingClientRect();
      const isSeen = box.bottom > 0 && box.right > 0 && box.top < innerHeight && box.left < innerWidth;
      if (!isSeen) wrong.add(`${what} is off the screen`);
      if (looks.get(e) === lookOf(e)) wrong.add(`${what} shows no ring`);
      return isNew;
    };
    const missed = () =>
      stops()
        .filter((e) => !has.has(e) && !handsOn(e) && !isAnother(e))
        .map(whatIs);
    Object.assign(window, { walked: { came, missed, wrong } });
  });
  type Walked = { walked: { came: () => boolean | null; missed: () => string[]; wrong: Set<string> } };
  let steps = 0;
  for (let again = 0; steps < MOST_STEPS && again < 3; steps++) {
    await page.keyboard.press('Tab');
    const isNew = await page.evaluate(() => (window as unknown as Walked).walked.came());
    // What has been met three times in a row is where it began.
    again = isNew === false ? again + 1 : 0;
  }
  return page.evaluate((steps) => {
    const { missed, wrong } = (window as unknown as Walked).walked;
    return { steps, missed: missed(), wrong: [...wrong] };
  }, steps);
}

for (const [width, height] of [
  [1280, 800],
  [390, 844],
] as const)
  test(`the Tab key comes to every control of every room at ${width}, each named, ringed and in view`, async ({
    page,
  }) => {
    test.slow();
    await page.setViewportSize({ width, height });
    // Nothing is under way when it is looked at.
    await page.emulateMedia({ reducedMotion: 'reduce' });
    for (const [room, address, there] of ROOMS) {
      await page.goto(address);
      await expect(there(page), room).toBeVisible();
      await still(page);
      const { steps, missed, wrong } = await walk(page);
      expect.soft(missed, `${room}: never reached`).toEqual([]);
      expect.soft(wrong, room).toEqual([]);
      expect.soft(steps, `${room}: comes round`).toBeLessThan(MOST_STEPS);
    }
  });
