import {
  applyChange,
  applySteps,
  invertSteps,
  rebase,
  stepsBetween,
  stepsOf,
  type Change,
  type Design,
  type Step,
} from '@cordelina/core';
import { newId } from './newId.js';
import type { Done, Joined, Outbox } from './outbox.js';

/** What the server has that this browser does not: a version, and how it came about or what it is. */
export interface Newer {
  version: number;
  /** The changes since the outbox's base, oldest first; null when only the document is known. */
  changes: Change[] | null;
  document?: Design;
}

const oneByOne = (steps: readonly Step[]): Change[] =>
  steps.map((step) => ({ id: newId(), label: '', steps: [step] }));

/**
 * Joins newer work into an outbox. What is unsaved is mapped over it, and so is what undo and redo would do.
 * Where both cannot be had the server's stands, and this browser's becomes a choice, row by row.
 */
export function join(box: Outbox, newer: Newer): Joined {
  const changes = newer.changes ?? [
    { id: newId(), label: '', steps: stepsBetween(box.saved, newer.document!) },
  ];
  let { saved, unsaved } = box;
  let joined: Joined = { ...box, base: newer.version };
  for (const run of runsOf(changes, new Set(unsaved.map((c) => c.id)))) {
    if (run.own) {
      // Saved already, though the answer never came: these are no longer unsaved.
      const ids = new Set(run.changes.map((c) => c.id));
      saved = applySteps(saved, stepsOf(run.changes));
      unsaved = unsaved.filter((c) => !ids.has(c.id));
      joined = { ...joined, saved, unsaved, document: unsaved.reduce(applyChange, saved) };
    } else {
      joined = over({ ...joined, saved, unsaved }, run.changes);
      ({ saved, unsaved } = joined);
    }
  }
  return joined;
}

/** Changes in runs of one's own and of others'. */
function runsOf(changes: readonly Change[], own: ReadonlySet<string>): { own: boolean; changes: Change[] }[] {
  const runs: { own: boolean; changes: Change[] }[] = [];
  for (const change of changes) {
    const isOwn = own.has(change.id);
    if (runs.at(-1)?.own === isOwn) runs.at(-1)!.changes.push(change);
    else runs.push({ own: isOwn, changes: [change] });
  }
  return runs;
}

function over(box: Joined, theirs: readonly Change[]): Joined {
  const { saved: base, unsaved, done, undone } = box;
  const theirSteps = stepsOf(theirs);
  const saved = applySteps(base, theirSteps);
  const { kept, aside, over: steps } = rebase(base, unsaved, theirSteps);
  const document = kept.reduce(applyChange, saved);
  const inverted = (changes: readonly Done[]) => changes.map((c) => ({ ...c, steps: invertSteps(c.steps) }));
  // Undo goes back from the newest change: those are mapped in that order. Redo likewise.
  const back = rebase(box.document, inverted(done).reverse(), steps).kept as Done[];
  const again = rebase(box.document, [...undone].reverse(), steps).kept as Done[];
  return {
    base: box.base,
    saved,
    document,
    unsaved: kept,
    done: inverted(back).reverse(),
    undone: again.reverse(),
    choices: [
      ...choicesAfter(box.document, box.choices, steps),
      ...(aside.length ? choicesBetween(document, preferring(base, unsaved, theirs)) : []),
    ],
  };
}

/** The document with everything done here, and of theirs what can be had beside it. */
function preferring(base: Design, mine: readonly Change[], theirs: readonly Change[]): Design {
  const { kept } = rebase(base, oneByOne(stepsOf(theirs)), stepsOf(mine));
  return kept.reduce(applyChange, mine.reduce(applyChange, base));
}

/** Choices made for a document, as they are after steps; what those steps decided otherwise is no choice any more. */
export function choicesAfter(document: Design, choices: readonly Change[], steps: readonly Step[]): Change[] {
  return choices.flatMap((choice) => rebase(document, [choice], steps).kept);
}

/** What leads from the joined document to this browser's, row by row and setting by setting. */
function choicesBetween(joined: Design, mine: Design): Change[] {
  const groups = new Map<string, { label: string; steps: Step[] }>();
  for (const step of stepsBetween(joined, mine)) {
    const [key, label] = placeOf(step, joined);
    const group = groups.get(key) ?? { label, steps: [] };
    group.steps.push(step);
    groups.set(key, group);
  }
  return [...groups.values()].map(({ label, steps }) => ({ id: newId(), label, steps }));
}

function placeOf(step: Step, { charts }: Design): [key: string, label: string] {
  if (step.kind === 'cells') {
    const name = charts.length > 1 ? charts.find((c) => c.id === step.chart)?.name : '';
    return [`${step.chart} ${step.row}`, `${name ? `${name}, row` : 'Row'} ${step.row + 1}`];
  }
  if (step.kind !== 'set') return ['charts', 'The whole chart'];
  const [head, second, third] = step.path;
  if (head !== 'charts')
    return [step.path.join(' '), HEADS[head!] ?? `Setting: ${step.path.slice(1).join(', ')}`];
  return [`${second} ${third}`, FRAMES[third!] ?? `Chart: ${third}`];
}

const HEADS: Record<string, string> = { title: 'Title', notes: 'Notes' };
const FRAMES: Record<string, string> = {
  across: 'Repeat across',
  up: 'Repeat up',
  own: 'A stitch of your own',
  construction: 'Flat or round',
  firstRow: 'Side of row 1',
  ground: 'Ground',
  name: 'Name of the chart',
};

/**
 * Takes in what another, closed tab kept for the same design and version: its changes follow this one's, and what
 * cannot be had beside them becomes a choice.
 */
export function absorb(box: Outbox, other: Pick<Outbox, 'unsaved' | 'choices'>): Outbox {
  // What both kept, as after a tab was duplicated, comes first and once.
  const both = new Set(other.unsaved.map((c) => c.id));
  const shared = box.unsaved.filter((c) => both.has(c.id));
  const own = box.unsaved.filter((c) => !shared.includes(c));
  const known = new Set(shared.map((c) => c.id));
  const theirs = other.unsaved.filter((c) => !known.has(c.id));
  const from = shared.reduce(applyChange, box.saved);
  const { kept, aside } = rebase(from, theirs, stepsOf(own));
  const document = kept.reduce(applyChange, box.document);
  const theirDocument = theirs.reduce(applyChange, from);
  return {
    ...box,
    document,
    unsaved: [...shared, ...own, ...kept],
    choices: [
      ...choicesAfter(box.document, box.choices, stepsOf(kept)),
      ...(aside.length ? choicesBetween(document, preferring(from, theirs, own)) : []),
      ...choicesAfter(theirDocument, other.choices, stepsBetween(theirDocument, document)),
    ],
  };
}
