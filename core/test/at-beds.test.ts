import { expect } from 'chai';
import {
  back,
  bedsJobOf,
  forward,
  isDone,
  JobFault,
  lengthOfCourse,
  listOf,
  setUp,
  startDesign,
  type At,
  type Chart,
} from '../src/index.js';

import { braid } from './sound-cloth.js';

describe('an operator’s list at the needles', () => {
  const chart: Chart = {
    ...setUp(braid(2, 2, 4, 2, 'left').chart, { setup: 0, closing: 0, times: 2 }).chart,
    id: 'x',
  };
  const design = startDesign('00000000-0000-4000-8000-0000000000ae', 'Beds', chart);
  const of = { machine: 'x', method: 'basic' } as const;

  it('has every action of the list once, at its counter, and knits every row', () => {
    const { readings, counts } = bedsJobOf(design, of);
    const list = listOf(chart, { method: 'basic' });
    expect(list.checked).to.be.true;
    const told = readings.flatMap(({ counter, does }) =>
      does.filter((text) => /^(cable|move)/.test(text)).map(() => counter),
    );
    expect(told).to.deep.equal(list.actions.map(({ counter }) => counter));
    const knit = readings.flatMap(({ does }) =>
      does.flatMap((text) => /^knit (\d+) rows?, to/.exec(text)?.[1] ?? []),
    );
    expect(knit.reduce((sum, n) => sum + Number(n), 0)).to.equal(counts);
    expect(counts).to.equal(list.rows);
  });

  it('is gone through forward and back like any row', () => {
    const job = bedsJobOf(design, of);
    let at: At = { row: 0, group: 0 };
    let goes = 0;
    while (!isDone(job, at)) {
      at = forward(job, at);
      goes++;
    }
    expect(at).to.deep.equal({ row: lengthOfCourse(job), group: 0 });
    expect(goes).to.equal(job.readings.reduce((sum, { does }) => sum + does.length, 0));
    for (; goes; goes--) at = back(job, at);
    expect(at).to.deep.equal({ row: 0, group: 0 });
  });

  it('is refused where beds cannot knit it, or the chart is gone, in a sentence', () => {
    // A cable of four over four is hard on needles and yarn (custom).
    const other = startDesign(design.id, 'Wide', { ...braid(2, 4, 6, 2, 'left').chart, id: 'wide' });
    expect(() => bedsJobOf(other, { ...of, machine: 'wide' })).to.throw(JobFault, /cannot knit it so/);
    expect(() => bedsJobOf(design, { ...of, machine: 'gone' })).to.throw(JobFault, /no such chart/);
  });
});
