import type { z } from 'zod';
import { Clash } from '../chart/map.js';
import { DocumentError } from '../chart/migrate.js';
import { rebaseWith } from '../chart/rebase.js';
import { replaced, setStep, StepMisfit, type SetStep, type Step } from '../chart/steps.js';
import { sameValue } from '../values.js';
import type { Kind } from './kind.js';

/** A small document of fields, each set as a whole; two people who set different fields both keep their work. */

type Bag = Readonly<Record<string, unknown>>;

interface Fields<D> extends Pick<Kind<D>, 'name' | 'most' | 'isListedWhole' | 'titleOf'> {
  schema: z.ZodType<D>;
  /** Fields that are bags of fields, each of which is set by itself. */
  bags: readonly string[];
  /** Words for a field, by its path. */
  labels: Readonly<Record<string, string>>;
  /**
   * Where two set one field otherwise, which of them stands though nobody is asked: for what is easily said again, or can be told
   * from what was set. Without it the person chooses.
   */
  stands?: (mine: SetStep, theirs: SetStep) => 'mine' | 'theirs';
}

const isOfPath = (path: readonly string[]) => (step: SetStep) => sameValue(step.path, path);

/** Two runs of steps from one document, each as it is to be done after the other. @throws Clash */
function mapFields(
  mine: readonly SetStep[],
  other: readonly SetStep[],
  stands: Fields<never>['stands'],
): { mine: SetStep[]; other: SetStep[] } {
  let rest = [...other];
  const mapped = mine.flatMap((step): SetStep[] => {
    const theirs = rest.filter(isOfPath(step.path)).at(-1);
    if (!theirs) return [step];
    const others = rest.filter((one) => !isOfPath(step.path)(one));
    if (!sameValue(theirs.now, step.now)) {
      if (!stands) throw new Clash('Both edits change the same field.');
      if (stands(step, theirs) === 'theirs') {
        rest = [...others, setStep(step.path, step.now, theirs.now)];
        return [];
      }
    }
    rest = others;
    return sameValue(theirs.now, step.now) ? [] : [setStep(step.path, theirs.now, step.now)];
  });
  return { mine: mapped, other: rest };
}

/** What a document of fields is, as a kind. */
export function fieldsKind<D extends object>({ schema, bags, labels, stands, ...kind }: Fields<D>): Kind<D> {
  /** @throws StepMisfit when a step sets nothing that such a document has */
  const asSet = (step: Step): SetStep => {
    if (step.kind !== 'set') throw new StepMisfit('Only a chart has stitches and rows to change.');
    const [head, ...rest] = step.path;
    if (head === 'id') throw new StepMisfit('An id stays as it is.');
    if (rest.length !== (bags.includes(head!) ? 1 : 0))
      throw new StepMisfit(`"${step.path.join('/')}" is nothing that is set by itself.`);
    return step;
  };
  const apply = (document: D, steps: readonly Step[]): D => {
    const made = steps
      .map(asSet)
      .reduce<Bag>((bag, { path, was, now }) => replaced(bag, path, was, now), document as Bag);
    const parsed = schema.safeParse(made);
    if (!parsed.success) throw new StepMisfit(parsed.error.issues[0]!.message);
    if (!sameValue(parsed.data, made)) throw new StepMisfit('This is not written as it is kept.');
    return parsed.data;
  };
  const between = (was: Bag, now: Bag, path: readonly string[] = []): SetStep[] =>
    [...new Set([...Object.keys(was), ...Object.keys(now)])].flatMap((key) => {
      if (sameValue(was[key], now[key])) return [];
      return path.length === 0 && bags.includes(key)
        ? between(was[key] as Bag, now[key] as Bag, [key])
        : [setStep([...path, key], was[key], now[key])];
    });
  return {
    ...kind,
    read(value) {
      const parsed = schema.safeParse(value);
      if (parsed.success) return parsed.data;
      const issue = parsed.error.issues[0]!;
      throw new DocumentError(issue.message, issue.path.map(String).join('.'));
    },
    apply,
    rebase: (document, changes, over) =>
      rebaseWith(document, changes, over, {
        apply,
        map: (mine, other) => mapFields(mine.map(asSet), other.map(asSet), stands),
      }),
    between: (was, now) => between(was as Bag, now as Bag),
    placeOf: (step) => {
      const path = step.kind === 'set' ? step.path : [];
      const key = path.join('/');
      return [key, labels[key] ?? labels[path[0]!] ?? key];
    },
  };
}
