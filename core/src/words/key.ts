import type { Chart, Settings } from '../chart/schema.js';
import { stitchUse } from '../chart/edits.js';
import { rowUse, sideOf } from '../chart/rows.js';
import { isCrossing, kindOf, makesOf, stitchId, takesOf, type Stitch } from '../stitches/book.js';
import type { Crossing } from '../stitches/crossing.js';
import type { Side } from '../stitches/face.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { nameOf } from '../names/schools.js';
import { cablelessText, TWIST_TEXT } from './moves.js';
import { crossingSteps, kindInHand, wordOf, type Diction } from './vocabulary.js';

/** One line of the key: a symbol's stitch, what it is called and worked as on the sides it is used on. */
export interface KeyEntry {
  stitch: Stitch;
  name: string;
  takes: number;
  makes: number;
  sides: { side: Side; word: string; steps: string; loose?: string }[];
}

type KeySettings = Pick<Settings, 'twist' | 'cableless' | 'bobble'>;

/** How to work a bobble of so many loops; its size is a setting. */
function bobbleSteps(size: number, side: Side): string {
  const [a, b] = side === 'RS' ? ['k', 'p'] : ['p', 'k'];
  const into = Array.from({ length: size }, (_, i) => (i % 2 === 0 ? `${a}1` : 'yo')).join(', ');
  return `${into} into the stitch, turn, ${b}${size}, turn, ${a}${size}tog`;
}

const isTwist = (c: Crossing) => c.front.join() === 'k' && c.back.join() === 'k' && !c.centre.length;

/** Another way than the cable needle, as the design's settings choose it. */
function looseSteps(c: Crossing, side: Side, settings: KeySettings, diction: Diction): string | undefined {
  if (isTwist(c) && side === 'RS' && settings.twist !== 'cable') {
    const seen = diction.hand === 'left-same-fabric' ? (c.lean === 'left' ? 'right' : 'left') : c.lean;
    return TWIST_TEXT[settings.twist][seen];
  }
  return (settings.cableless && cablelessText(c, side, diction.hand)) || undefined;
}

function steps(stitch: Stitch, side: Side, settings: KeySettings, diction: Diction): string {
  if (isCrossing(stitch)) return crossingSteps(stitch, side, diction.hand);
  if (stitch === 'mb') return bobbleSteps(settings.bobble, side);
  const kind = kindInHand(kindOf(stitch, diction.book), diction);
  return side === 'RS' ? kind.rsSteps : kind.wsSteps;
}

function displayName(stitch: Stitch, diction: Diction): string {
  if (!isCrossing(stitch)) return kindOf(stitch, diction.book).name;
  return (
    nameOf(stitch, diction.naming) ??
    `${stitch.front.length} over ${stitch.back.length}, leaning ${stitch.lean}`
  );
}

/** The key of a chart: every stitch and crossing it uses, on the sides it uses them, and nothing else. */
export function keyOf(chart: Chart, settings: KeySettings, diction: Diction): KeyEntry[] {
  const sides = new Map<string, Set<Side>>();
  chart.rows.forEach((row, r) => {
    for (const s of rowUse(row).keys()) {
      const id = stitchId(s);
      if (!sides.has(id)) sides.set(id, new Set());
      sides.get(id)!.add(sideOf(chart, r));
    }
  });
  const rank = (s: Stitch) => (s === 'k' ? 0 : s === 'p' ? 1 : isCrossing(s) ? 3 : s === NO_STITCH ? 4 : 2);
  return stitchUse(chart)
    .map(({ stitch }) => stitch)
    .sort((a, b) => rank(a) - rank(b))
    .map((stitch) => ({
      stitch,
      name: displayName(stitch, diction),
      takes: takesOf(stitch, diction.book),
      makes: makesOf(stitch, diction.book),
      sides: (['RS', 'WS'] as const)
        .filter((side) => sides.get(stitchId(stitch))!.has(side) && stitch !== NO_STITCH)
        .map((side) => ({
          side,
          word: wordOf(stitch, side, diction),
          steps: steps(stitch, side, settings, diction),
          loose: isCrossing(stitch) ? looseSteps(stitch, side, settings, diction) : undefined,
        })),
    }));
}

/** The key as lines of text, one a word. A side is named only where the same word is worked in two ways. */
export function keyLines(key: readonly KeyEntry[]): string[] {
  type Way = KeyEntry['sides'][number] & { crossing: boolean };
  const byWord = new Map<string, Way[]>();
  for (const { stitch, sides } of key)
    for (const way of sides) {
      if (way.word.startsWith('(')) continue;
      const known = byWord.get(way.word) ?? [];
      if (!known.some((k) => k.steps === way.steps)) known.push({ ...way, crossing: isCrossing(stitch) });
      byWord.set(way.word, known);
    }
  return [...byWord].flatMap(([word, ways]) =>
    ways.map(({ steps: how, side, loose, crossing }) => {
      const named = word.replace(/ ?#/, '');
      // A crossing's name is the same on both sides, but its steps are not: those of the WS are always marked.
      const where = ways.length > 1 || (crossing && side === 'WS') ? ` (${side})` : '';
      return `${named}${where}: ${how}.${loose ? ` Without a cable needle: ${loose}.` : ''}`;
    }),
  );
}
