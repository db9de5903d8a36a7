import {
  EDITION,
  inDesign,
  jobOf,
  KNITTING,
  NOTE,
  type Design,
  type Edition,
  type Knitting,
  type Note,
} from '@cordelina/core';

/** What is on the needles in the Moraine Hut: the sample of the vest, a good way up, and what was noticed on the way. All invented. */

const id = (n: number) => `c0d10000-0000-4000-8000-00000000000${n}`;
const BEGUN = Date.UTC(2026, 10, 21, 18, 0);
const MINUTE = 60_000;

/** Where the knitter is, and the row in which her count did not come out. */
const [AT, COUNTED] = [40, 34];

export interface DemoKnitting {
  editions: Edition[];
  knittings: Knitting[];
  notes: Note[];
}

export function demoKnitting(designs: readonly Design[]): DemoKnitting {
  const vest = designs.find(({ title }) => title === 'Cornice vest')!;
  const size = vest.piece!.sizes[0]!;
  const edition = EDITION.read({ id: id(1), design: vest.id, version: 1, at: BEGUN, document: vest });
  const job = jobOf(vest, { size: size.id }, vest.settings);
  // Two evenings: rows of seven minutes or so, the crossing ones a little longer.
  let at = BEGUN;
  const log = Object.fromEntries(
    Array.from({ length: AT }, (_, row) => {
      at += (row === 22 ? 22 * 60 : 6 + (row % 4)) * MINUTE;
      return [String(row), at];
    }),
  );
  const skein = (lot: string, row: number) => ({ lot, row, at: log[row] ?? BEGUN });
  const knitting = KNITTING.read({
    id: id(2),
    design: vest.id,
    edition: edition.id,
    of: { size: size.id },
    name: `Front, ${size.name}`,
    knitter: 'Ina',
    begun: BEGUN,
    place: { row: AT, group: 0, at, device: 'phone#1' },
    log,
    skeins: { [id(3)]: skein('lot 7', 0), [id(4)]: skein('lot 7', 31) },
    rest: 45,
  });
  const note = (n: number, row: number, more: object) =>
    NOTE.read({
      ...inDesign(job, { row, group: 0 }, Math.floor(job.chart.width / 2)),
      id: id(n),
      design: vest.id,
      knitting: knitting.id,
      by: 'Ina',
      at: log[row],
      ...more,
    });
  return {
    editions: [edition],
    knittings: [knitting],
    notes: [
      note(5, COUNTED, { text: 'The diamond closes more firmly if the last purl is worked tightly.' }),
      note(6, 26, {
        text: 'Which of the two ropes lies in front here?',
        state: 'answered',
        answer: 'The one that leans left, as the chart draws it.',
      }),
    ],
  };
}
