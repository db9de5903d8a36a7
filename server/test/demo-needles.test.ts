import {
  bedsJobOf,
  JobFault,
  jobOf,
  onNeedles,
  PieceFault,
  rowInHands,
  titleOf,
  type Hand,
  type JobOf,
} from '@cordelina/core';
import { expect } from 'chai';
import { demoDesigns } from '../src/demo/designs.js';
import { demoKnitting } from '../src/demo/knitting.js';

/** Every way of working there is in the demo, from the first row to the last. */
describe('the demo’s designs at the needles', () => {
  const HANDS: readonly Hand[] = ['right', 'left-same-fabric', 'left-same-words'];
  for (const design of demoDesigns())
    it(`${design.title} is gone through in every size and hand, or it is said why not`, () => {
      const all: JobOf[] = [
        ...(design.piece?.sizes.map(({ id }) => ({ size: id })) ?? []),
        ...design.charts.map(({ id }) => ({ chart: id })),
      ];
      for (const of of all)
        for (const hand of HANDS) {
          let loops = 0;
          try {
            const job = jobOf(design, of, { ...design.settings, hand });
            loops = job.castOn;
            job.rows.forEach(({ band }, n) => {
              const { groups, takes, makes } = rowInHands(job, n);
              expect(titleOf(job, n).text).to.match(/\d/);
              expect(groups.length).to.be.greaterThan(0);
              if (band !== null) return;
              if (!design.title.includes('under repair')) expect(takes, `row ${n + 1}`).to.equal(loops);
              loops = makes;
            });
            const last = { row: job.rows.length, group: 0 };
            expect(onNeedles(job, last).worked.length).to.be.greaterThan(0);
          } catch (error) {
            // The design under repair has its honest mistakes.
            if (!(error instanceof JobFault || error instanceof PieceFault)) throw error;
            expect(error.message).to.match(/\.$/);
          }
        }
      for (const { id } of design.charts)
        try {
          expect(bedsJobOf(design, { machine: id, method: 'basic' }).readings.length).to.be.greaterThan(0);
        } catch (error) {
          if (!(error instanceof JobFault)) throw error;
        }
    });

  it('has a sample knitter whose place, log and notes are in her pattern', () => {
    const { editions, knittings, notes } = demoKnitting(demoDesigns());
    const [edition] = editions;
    for (const { of, place, log, edition: from } of knittings) {
      expect(from).to.equal(edition!.id);
      const job = jobOf(edition!.document, of as JobOf, edition!.document.settings);
      expect(place.row).to.be.lessThan(job.rows.length);
      expect(Object.keys(log).length).to.equal(place.row);
    }
    for (const { chart, row } of notes)
      expect(edition!.document.charts.find(({ id }) => id === chart)!.rows.length).to.be.greaterThan(row!);
  });
});
