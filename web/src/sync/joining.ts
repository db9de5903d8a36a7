import { invertSteps, stepsOf, type Change, type Kind, type Step } from '@cordelina/core';
import { newId } from './newId.js';
import { kindOf, type AnyOutbox, type Document, type Done, type Joined } from './outbox.js';

/** What the server has that this browser does not: a version, and how it came about or what it is. */
export interface Newer {
  version: number;
  /** The changes since the outbox's base, oldest first; null when only the document is known. */
  changes: Change[] | null;
  document?: Document;
}

/** A document after changes. */
const done = (kind: Kind<Document>, document: Document, changes: readonly Change[]): Document =>
  changes.length ? kind.apply(document, stepsOf(changes)) : document;

const oneByOne = (steps: readonly Step[]): Change[] =>
  steps.map((step) => ({ id: newId(), label: '', steps: [step] }));

/**
 * Joins newer work into an outbox. What is unsaved is mapped over it, and so is what undo and redo would do.
 * Where both cannot be had the server's stands, and this browser's becomes a choice, row by row.
 */
export function join(box: AnyOutbox, newer: Newer): Joined {
  const kind = kindOf(box);
  const changes = newer.changes ?? [
    { id: newId(), label: '', steps: kind.between(box.saved, newer.document!) },
  ];
  let { saved, unsaved } = box;
  let joined: Joined = { ...box, base: newer.version };
  for (const run of runsOf(changes, new Set(unsaved.map((c) => c.id)))) {
    if (run.own) {
      // Saved already, though the answer never came: these are no longer unsaved.
      const ids = new Set(run.changes.map((c) => c.id));
      saved = kind.apply(saved, stepsOf(run.changes));
      unsaved = unsaved.filter((c) => !ids.has(c.id));
      joined = { ...joined, saved, unsaved, document: done(kind, saved, unsaved) };
    } else {
      joined = over(kind, { ...joined, saved, unsaved }, run.changes);
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

function over(kind: Kind<Document>, box: Joined, theirs: readonly Change[]): Joined {
  const { saved: base, unsaved } = box;
  const theirSteps = stepsOf(theirs);
  const saved = kind.apply(base, theirSteps);
  const { kept, aside, over: steps } = kind.rebase(base, unsaved, theirSteps);
  const document = done(kind, saved, kept);
  const inverted = (changes: readonly Done[]) => changes.map((c) => ({ ...c, steps: invertSteps(c.steps) }));
  // Undo goes back from the newest change: those are mapped in that order. Redo likewise.
  const back = historyOver(kind, box.document, inverted(box.done).reverse(), steps);
  const again = historyOver(kind, box.document, [...box.undone].reverse(), steps);
  return {
    base: box.base,
    saved,
    document,
    unsaved: kept,
    done: inverted(back).reverse(),
    undone: again.reverse(),
    choices: [
      ...choicesAfter(kind, box.document, box.choices, steps),
      ...(aside.length ? choicesBetween(kind, document, preferring(kind, base, unsaved, theirs)) : []),
    ],
  };
}

/** What undo or redo would do, after steps. What only lays down or takes out stays as it is. */
function historyOver(
  kind: Kind<Document>,
  document: Document,
  history: readonly Done[],
  steps: readonly Step[],
): Done[] {
  const kept = kind.rebase(
    document,
    history.filter((c) => c.steps.length),
    steps,
  ).kept as Done[];
  return history.flatMap((c) => (c.steps.length ? (kept.find((k) => k.id === c.id) ?? []) : c));
}

/** The document with everything done here, and of theirs what can be had beside it. */
function preferring(
  kind: Kind<Document>,
  base: Document,
  mine: readonly Change[],
  theirs: readonly Change[],
): Document {
  const { kept } = kind.rebase(base, oneByOne(stepsOf(theirs)), stepsOf(mine));
  return done(kind, done(kind, base, mine), kept);
}

/** Choices made for a document, as they are after steps; what those steps decided otherwise is no choice any more. */
export function choicesAfter(
  kind: Kind<Document>,
  document: Document,
  choices: readonly Change[],
  steps: readonly Step[],
): Change[] {
  return choices.flatMap((choice) => kind.rebase(document, [choice], steps).kept);
}

/** What leads from the joined document to this browser's, row by row and setting by setting. */
function choicesBetween(kind: Kind<Document>, joined: Document, mine: Document): Change[] {
  const groups = new Map<string, { label: string; steps: Step[] }>();
  for (const step of kind.between(joined, mine)) {
    const [key, label] = kind.placeOf(step, joined);
    const group = groups.get(key) ?? { label, steps: [] };
    group.steps.push(step);
    groups.set(key, group);
  }
  return [...groups.values()].map(({ label, steps }) => ({ id: newId(), label, steps }));
}

/**
 * Takes in what another, closed tab kept for the same design and version: its changes follow this one's, and what
 * cannot be had beside them becomes a choice.
 */
export function absorb(box: AnyOutbox, other: Pick<AnyOutbox, 'unsaved' | 'choices' | 'out'>): AnyOutbox {
  const kind = kindOf(box);
  // What both kept, as after a tab was duplicated, comes first and once.
  const both = new Set(other.unsaved.map((c) => c.id));
  const shared = box.unsaved.filter((c) => both.has(c.id));
  const own = box.unsaved.filter((c) => !shared.includes(c));
  const known = new Set(shared.map((c) => c.id));
  const theirs = other.unsaved.filter((c) => !known.has(c.id));
  const from = done(kind, box.saved, shared);
  const { kept, aside } = kind.rebase(from, theirs, stepsOf(own));
  const document = done(kind, box.document, kept);
  const theirDocument = done(kind, from, theirs);
  return {
    ...box,
    document,
    out: box.out || other.out,
    unsaved: [...shared, ...own, ...kept],
    choices: [
      ...choicesAfter(kind, box.document, box.choices, stepsOf(kept)),
      ...(aside.length ? choicesBetween(kind, document, preferring(kind, from, theirs, own)) : []),
      ...choicesAfter(kind, theirDocument, other.choices, kind.between(theirDocument, document)),
    ],
  };
}
