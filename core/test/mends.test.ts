import { expect } from 'chai';
import fc from 'fast-check';
import {
  applyChange,
  ChartSchema,
  checkChart,
  flipCrossing,
  readPattern,
  simpleCrossing,
  startDesign,
  type Chart,
  type Finding,
  type Fix,
  type Stitch,
} from '../src/index.js';
import { findingsOf } from '../src/checks/index.js';
import { mirrorChart } from '../src/chart/edits.js';
import { type Lean } from '../src/stitches/face.js';
import { chart, found, k, p, panels } from './panels.js';
import { braids, inMirror, soundCloth, turnedOver } from './sound-cloth.js';

/** Findings are true, and what they offer mends: nothing is said of sound cloth, and faults of every kind are put right. */

/** What the checks say of rhythm and over-under: what a sound cloth must not hear. */
const OF_ROPES = [
  'over-under-broken',
  'over-under-cannot',
  'mirror-broken',
  'irregular-rhythm',
  'rope-split',
  'rope-purled',
  'ground-over-rope',
];
const alarms = (c: Chart): Finding[] =>
  checkChart(c).filter((f) => f.level !== 'note' && OF_ROPES.includes(f.id));

const mended = (c: Chart, fix: Fix): Chart => {
  const begun = startDesign('00000000-0000-4000-8000-0000000000bb', 'x', c);
  return applyChange(begun, { steps: fix.steps }).charts[0]!;
};
const [L, R] = [simpleCrossing('left', 2, 2), simpleCrossing('right', 2, 2)];

describe('sound cloth', () => {
  it('of every traditional kind is told of no fault, nor its mirror image', () => {
    expect(soundCloth.length).to.be.greaterThan(150);
    const told = soundCloth.flatMap((one) =>
      [one, inMirror(one)].flatMap(({ name, chart: c }) => alarms(c).map((f) => `${name}: ${f.message}`)),
    );
    expect(told).to.deep.equal([]);
  });

  it('is told of no fault where it is repeated up, worked in the round, or stands between grounds', () => {
    for (const { name, chart: c } of braids.filter((_, i) => i % 5 === 0))
      for (const over of [
        { up: { setup: 0, closing: 0, times: 3 } },
        { construction: 'round' as const },
        { part: 'piece' as const },
      ])
        expect(
          alarms({ ...c, ...over }).map((f) => f.message),
          name,
        ).to.deep.equal([]);
  });
});

describe('a crossing turned the wrong way', () => {
  it('is found in a braid wherever it stands, the first row and the last included, and its mend turns it back', () => {
    let tried = 0;
    const crossings = (c: Chart) => c.rows.flat().filter((stitch) => typeof stitch !== 'string').length;
    // With four crossings in all nobody can say which of them is the odd one.
    for (const one of braids.filter(({ chart: c }) => crossings(c) > 4))
      for (let n = 0; n < crossings(one.chart); n += 2) {
        const spoiled = turnedOver(one.chart, n)!;
        tried++;
        const here = alarms(spoiled.chart).filter((f) => f.row === spoiled.row);
        expect(here, `${one.name}: crossing ${n + 1}`).not.to.be.empty;
        const [fix] = here.flatMap((f) => f.fix ?? []);
        expect(fix, `${one.name}: crossing ${n + 1} has a mend`).not.to.be.undefined;
        // The least change of all: the chart as it was.
        expect(mended(spoiled.chart, fix!).rows).to.deep.equal(one.chart.rows);
      }
    expect(tried).to.be.greaterThan(400);
  });

  it('is told as over-under first where two explanations would do', () => {
    const [braid] = braids;
    const twice = { ...braid!.chart, mirror: { axis: braid!.chart.width } };
    const spoiled = turnedOver(twice, 0)!;
    const all = alarms(spoiled.chart).filter((f) => f.row === spoiled.row);
    for (const { id, fix } of all) if (id === 'mirror-broken') expect(fix).to.be.undefined;
  });
});

describe('a mend', () => {
  it('takes its own finding away and brings none as grave, of whatever is drawn', () => {
    const cell = fc.constantFrom<Stitch[]>(k(4), k(4), p(4), [L], [R], [...p(1), ...k(3)]);
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 4, maxLength: 12 }), (drawn) => {
        const c = chart(drawn.map(([a, b]) => [...p(2), ...a, ...p(2), ...b, ...p(2)]));
        const before = checkChart(c);
        const grave = (told: readonly Finding[]) => told.filter((f) => f.level !== 'note').length;
        for (const { fix, id } of before.filter((f) => f.fix && f.level !== 'note').slice(0, 4)) {
          const after = checkChart(mended(c, fix!));
          const left = (told: readonly Finding[]) => told.filter((f) => f.id === id).length;
          expect(left(after), fix!.label).to.be.lessThan(left(before));
          expect(grave(after)).to.be.lessThan(grave(before));
        }
      }),
      { numRuns: 40 },
    );
  });

  it('is not given where it was not tried, and the findings are the same', () => {
    const spoiled = turnedOver(braids[3]!.chart, 2)!.chart;
    const bare = findingsOf(spoiled);
    expect(bare.some((f) => f.fix)).to.be.false;
    expect(bare.map((f) => f.message)).to.deep.equal(checkChart(spoiled).map((f) => f.message));
  });
});

describe('ground that lies over its rope', () => {
  /** A rope of two that moves over purl by one, so often; at one of the moves the purl may lie in front. */
  const travelling = (lean: Lean, moves: number, spoiled: number | null, n = 2): Chart => {
    const width = n + moves + 4;
    const at = (move: number) => (lean === 'left' ? 2 + move : 2 + moves - move);
    const plain = (move: number): Stitch[] => [...p(at(move)), ...k(n), ...p(width - n - at(move))];
    const rows: Stitch[][] = [plain(0), plain(0)];
    for (let move = 0; move < moves; move++) {
      const cross = simpleCrossing(lean, n, 1, 'p');
      const from = Math.min(at(move), at(move + 1));
      const set = move === spoiled ? flipCrossing(cross) : cross;
      rows.push([...p(from), set, ...p(width - n - 1 - from)], plain(move + 1));
    }
    return chart(rows, { part: 'panel' });
  };

  it('is found wherever a rope travels, and the rope laid in front again; sound ones are told of nothing', () => {
    for (const lean of ['left', 'right'] as const)
      for (const n of [1, 2, 3])
        for (const moves of [3, 5]) {
          const sound = travelling(lean, moves, null, n);
          expect(alarms(sound)).to.deep.equal([]);
          // At the first move it is no rope yet; the others say how it is meant.
          for (let move = 0; move < moves; move++) {
            const [finding, ...others] = found(travelling(lean, moves, move, n), 'ground-over-rope');
            expect(finding, `${n} to the ${lean}, move ${move + 1}`).not.to.be.undefined;
            expect(others).to.be.empty;
            expect(finding!.message).to.match(/of the ground in front of the rope/);
            expect(mended(travelling(lean, moves, move, n), finding!.fix!).rows).to.deep.equal(sound.rows);
          }
          // A line of purl that is carried over knit throughout is meant so.
          const purled = travelling(lean, 1, 0, n);
          expect(found(purled, 'ground-over-rope')).to.be.empty;
        }
  });
});

describe('a row that has too few or too many stitches', () => {
  const full: Stitch[][] = [
    [...p(2), ...k(4), ...p(3), ...k(4), ...p(2)],
    [...p(2), ...k(4), ...p(3), ...k(4), ...p(2)],
    [...p(2), L, ...p(3), L, ...p(2)],
    [...p(2), ...k(4), ...p(3), ...k(4), ...p(2)],
  ];

  it('is mended where it departs from what presents below, to the row it was', () => {
    for (const r of [1, 3])
      for (let from = 0; from < 15; from++)
        for (const n of [1, 2, 3]) {
          if (from + n > 15) continue;
          const rows = full.map((row) => [...row]);
          rows[r]!.splice(from, n);
          const c = ChartSchema.parse({ width: 15, rows });
          const [short] = found(c, 'row-short');
          expect(short, `row ${r + 1} without ${n} from ${from}`).not.to.be.undefined;
          expect(short!.fix, `row ${r + 1} without ${n} from ${from}`).not.to.be.undefined;
          expect(mended(c, short!.fix!).rows[r]).to.deep.equal(full[r]);
        }
  });

  it('of crossings too: what is missing after a stitch is named', () => {
    const rows = full.map((row) => [...row]);
    rows[2]!.splice(3, 3);
    const c = ChartSchema.parse({ width: 15, rows });
    const [short] = found(c, 'row-short');
    expect(short!.fix!.label).to.match(/p3/);
    expect(mended(c, short!.fix!).rows).to.deep.equal(full);
  });

  it('loses what stands too much in it, and keeps its crossings', () => {
    for (const [r, at, extra] of [
      [1, 0, p(1)],
      [1, 7, p(2)],
      [3, 15, p(1)],
      [2, 4, p(1)],
      [3, 3, k(1)],
    ] as const) {
      const rows = full.map((row) => [...row]);
      rows[r]!.splice(at, 0, ...extra);
      const c = ChartSchema.parse({ width: 15, rows });
      const [long] = found(c, 'row-long');
      expect(mended(c, long!.fix!).rows, `row ${r + 1} at ${at}`).to.deep.equal(full);
    }
  });
});

describe('a repeat that is declared', () => {
  const rows = panels(4, 'LL');

  it('over fewer rows than are written is told with both mends', () => {
    const c = chart(rows, { up: { setup: 0, closing: 2, times: 1 } });
    const [once] = found(c, 'repeat-once');
    expect(once).to.deep.include({ level: 'note', row: 6 });
    const all = [once!.fix!, ...(once!.others ?? [])];
    expect(all.map((fix) => fix.label)).to.deep.equal(['Repeat rows 1–8', 'Work rows 1–6 twice']);
    const ups = all.map((fix) => mended(c, fix).up);
    expect(ups).to.deep.equal([
      { setup: 0, closing: 0, times: 1 },
      { setup: 0, closing: 2, times: 2 },
    ]);
    for (const fix of all) expect(found(mended(c, fix), 'repeat-once')).to.deep.equal([]);
    for (const up of [null, { setup: 0, closing: 0, times: 1 }, { setup: 2, closing: 2, times: 3 }])
      expect(found(chart(rows, { up }), 'repeat-once')).to.deep.equal([]);
  });

  const read = (head: string, foot: string) =>
    readPattern(
      `Rope
${head}
Cast on 8 sts.
Row 1 (RS): p2, k4, p2.
Row 2 and all WS rows: work the stitches as they present.
Row 3: p2, 2/2 LC, p2.
Row 5: p2, k4, p2.
Row 7: p2, 2/2 LC, p2.
Row 8: work the stitches as they present.
${foot}`,
      { construction: 'flat', firstRow: 'RS', school: 'front-back' },
    )
      .problems.map((problem) => problem.id)
      .filter((id) => id !== 'repeat-open');

  it('in a text, and is no true one, is told on import', () => {
    for (const foot of ['Repeat rows 1–6.', 'Rows 1 to 6 form the pattern.'])
      expect(read('', foot), foot).to.include('repeat-not-whole');
    for (const head of ['6-row repeat.', 'Row repeat: 6 rows.', 'Pattern repeat: 6 rows.'])
      expect(read(head, 'Repeat rows 1–8.'), head).to.deep.equal(['repeat-differs']);
    for (const head of ['8-row repeat.', 'Row repeat: 8 rows.', ''])
      for (const foot of ['Repeat rows 1–8.', 'Repeat these 8 rows.', 'Rows 1 to 8 form the pattern.'])
        expect(read(head, foot), `${head} ${foot}`).to.deep.equal([]);
  });

  it('to be worked once need come round to nothing', () => {
    // 8 stitches that become 9: worked again it would not come out, worked once it does.
    const gaining = chart(
      [
        [...p(2), ...k(4), ...p(2)],
        [...p(2), 'kfb', ...k(3), ...p(2)],
      ].slice(0, 1),
    );
    expect(
      checkChart({ ...gaining, up: { setup: 0, closing: 0, times: 1 } }).filter((f) => f.level === 'error'),
    ).to.be.empty;
  });
});

describe('lifted increases', () => {
  const over = (below: Stitch[], row: Stitch[]) =>
    found(
      ChartSchema.parse({ width: 6, rows: [k(5), below, row].map((r, i) => (i < 2 ? [...r, 'none'] : r)) }),
      'nothing-to-work-into',
    );

  it('lift over a knit stitch, and over one that was slipped where it has a stitch below', () => {
    for (const stitch of ['rli', 'lli'] as const) {
      expect(over(k(5), [...k(2), stitch, ...k(3)]), stitch).to.deep.equal([]);
      // Slipped all over, row 2 leaves the loops of row 1, which stand on the cast-on.
      const slips = Array<Stitch>(5).fill('slyb');
      expect(over(slips, [...k(2), stitch, ...k(3)]), stitch).to.deep.equal([]);
    }
  });

  it('are refused alike in the mirror', () => {
    const cells: Stitch[] = ['k', 'p', 'slyb', 'kfb', 'yo'];
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...cells), { minLength: 4, maxLength: 4 }),
        fc.nat(4),
        fc.constantFrom<Stitch>('lli', 'rli'),
        (below, at, lift) => {
          const taken = below.reduce<number>((n, s) => n + (s === 'yo' ? 0 : 1), 0);
          const made = below.reduce<number>((n, s) => n + (s === 'kfb' ? 2 : 1), 0);
          const pad = (row: Stitch[], n: number) => [...row, ...Array<Stitch>(10 - n).fill('none')];
          const c = ChartSchema.parse({
            width: 10,
            rows: [
              pad(k(taken), taken),
              pad(below, made),
              pad([...k(Math.min(at, made)), lift, ...k(made - Math.min(at, made))], made + 1),
            ],
          });
          const lifts = (of: Chart) => found(of, 'nothing-to-work-into').length;
          expect(lifts(mirrorChart(c))).to.equal(lifts(c));
        },
      ),
    );
  });
});
