import {
  ChartSchema,
  applyChange,
  deleteRows,
  placeStitches,
  startChart,
  startDesign,
  linesOf,
  simpleCrossing,
  type Chart,
  type Crossing,
} from '@cordelina/core';
import { expect } from 'chai';
import {
  cellAt,
  cellsBox,
  cellsPane,
  chartPaneWidth,
  contentSize,
  fittingCell,
  onChart,
  origin,
  rowTop,
  scrollTo,
  visibleWindow,
  type Layout,
} from '../src/bench/geometry.js';
import { lexiconOf, notRead, readEntry, type Lexicon } from '../src/bench/entry.js';
import { readRepeat, repeatText } from '../src/bench/repeat-text.js';
import { newId } from '../src/sync/newId.js';
import { bench, selectionOf } from '../src/desk/state/bench.js';
import { edit, onBench, redo, takeBack, undo } from '../src/desk/state/editing.js';
import { makeStore } from '../src/desk/state/index.js';
import { emptyBox, outbox } from '../src/sync/outbox.js';
import { makePage } from '../src/sync/post.js';

describe('keys typed on the chart', () => {
  const lexicon: Lexicon = { school: 'front-back', hand: 'right', each: 1, side: 'RS', named: new Map() };
  const typed = (text: string, by: Partial<Lexicon> = {}) => readEntry(text, { ...lexicon, ...by }).now!;
  const waits = (text: string, by: Partial<Lexicon> = {}) => readEntry(text, { ...lexicon, ...by });
  const made = (text: string, by: Partial<Lexicon> = {}) => {
    const entry = typed(text, by);
    if (entry?.kind !== 'stitches') throw new Error(`${text}: ${entry?.kind}`);
    return entry.stitches;
  };

  it('work runs: a count, then a letter', () => {
    expect(made('6k')).to.deep.equal(Array(6).fill('k'));
    expect(made('p')).to.deep.equal(['p']);
    expect(made('12x')).to.deep.equal(Array(12).fill('none'));
  });

  it('work crossings as the trade writes them', () => {
    expect(made('2/2lc')).to.deep.equal([simpleCrossing('left', 2, 2)]);
    expect(made('2/1RPC')).to.deep.equal([simpleCrossing('right', 2, 1, 'p')]);
    expect(made('c4f')).to.deep.equal([simpleCrossing('left', 2, 2)]);
    expect(made('t2b')).to.deep.equal([simpleCrossing('right', 1, 1, 'p')]);
    expect(made('2/1/2lc')[0]).to.deep.include({ lean: 'left', centre: ['k'] });
    expect(typed('3/1 r')).to.deep.equal({
      kind: 'stitches',
      stitches: [simpleCrossing('right', 3, 1)],
      alone: false,
    });
  });

  it('leave stitches as they are, and set cells alone', () => {
    expect(typed('5.')).to.deep.equal({ kind: 'leave', columns: 5 });
    expect(typed('!4k')).to.include({ kind: 'stitches', alone: true });
  });

  it('are read in the design’s school and by its own names, as the words are', () => {
    // Worked first / worked second: one over three, leaning left, is three in front of one.
    const ordered = typed('1/3lc', { school: 'worked-order' });
    expect(ordered).to.deep.include({ stitches: [simpleCrossing('left', 3, 1)] });
    const wave = simpleCrossing('right', 2, 1, 'p');
    const by = { named: new Map([['t3b', wave]]) };
    expect(typed('t3b', by)).to.deep.include({ kind: 'stitches', stitches: [wave] });
    expect(typed('t3b')).to.have.property('message').that.contains('Type it by its groups');
  });

  it('ribbed groups are typed behind a dash', () => {
    for (const text of ['2/2l-kp/kp', '2/2lc-kp/kp']) {
      const [ribbed] = made(text) as Crossing[];
      expect([ribbed!.front, ribbed!.back]).to.deep.equal([
        ['k', 'p'],
        ['k', 'p'],
      ]);
    }
    // With all faces told there is nothing more to wait for; before that every key may be followed by another.
    const whole = '4/4rc-kpkp/kpkp';
    for (let n = 1; n < whole.length; n++)
      expect(waits(whole.slice(0, n)).more, whole.slice(0, n)).to.be.true;
    expect(waits(whole).more).to.be.false;
    expect((made(whole)[0] as Crossing).back).to.deep.equal(['k', 'p', 'k', 'p']);
  });

  it('wait for more while there may be more', () => {
    for (const part of ['1', '12', '2/', '2/2', '2/2l', '2/2lp', '2/1/', 'c', 'c4', 't1'])
      expect(waits(part).more, part).to.be.true;
  });

  it('refuse what is no run and no crossing, and say why', () => {
    for (const [text, why] of [
      ['0k', 'cannot be worked'],
      ['2/0lc', 'at least one'],
      ['13/2lc', '12 is the most'],
      ['c5f', 'does not say how'],
      ['c0f', 'no crossing'],
    ] as const)
      expect(typed(text)).to.have.property('message').that.contains(why);
    expect(waits('q')).to.deep.equal({ now: null, more: false });
    expect(notRead('q')).to.contain('nothing was set');
  });

  it('are the words of stitches too, as they look on the right side', () => {
    const chart = ChartSchema.parse({ width: 4, rows: [['p', 'p', 'p', 'p']] });
    const all = lexiconOf(chart, { school: 'front-back', names: {}, twist: 'cable' }, 'RS');
    for (const [word, stitch] of [
      ['k2tog', 'k2tog'],
      ['ssk', 'ssk'],
      ['yo', 'yo'],
      ['m1r', 'm1r'],
      ['k-yo-k', 'kyok'],
      ['sl1wyif', 'slyf'],
      ['lt', simpleCrossing('left', 1, 1)],
      ['rt', simpleCrossing('right', 1, 1)],
    ] as const) {
      expect(made(word, all), word).to.deep.equal([stitch]);
      // No key on the way is anything else at once.
      for (let n = 1; n < word.length; n++) expect(waits(word.slice(0, n), all).more, word).to.be.true;
    }
    expect(waits('k', all).now).to.deep.include({ stitches: ['k'] });
    expect(waits('6k', all)).to.deep.include({ more: false });
  });
});

describe('a repeat as the trade writes it', () => {
  it('says how many columns repeat, and what stands beside them', () => {
    expect(readRepeat('8 + 2', 10)).to.deep.equal({ before: 1, after: 1, times: null });
    expect(readRepeat('8+3', 11)).to.deep.equal({ before: 2, after: 1, times: null });
    expect(readRepeat('1 + 8 + 3 × 5', 12)).to.deep.equal({ before: 1, after: 3, times: 5 });
    expect(readRepeat('12', 12)).to.deep.equal({ before: 0, after: 0, times: null });
    // Two repeats are drawn: the first is the one that is worked again, and five in all are four of it.
    expect(readRepeat('6 + 2', 14)).to.deep.equal({ before: 1, after: 7, times: null });
    expect(readRepeat('6 + 2 × 5', 14)).to.deep.equal({ before: 1, after: 7, times: 4 });
  });

  it('is refused in one sentence where it cannot be', () => {
    expect(readRepeat('8 + 2', 12)).to.equal(
      'A repeat of 8 columns and 2 beside it makes charts of 10, 18, 26 … columns; this one has 12.',
    );
    expect(readRepeat('0 + 12', 12)).to.equal('A repeat of no columns repeats nothing.');
    expect(readRepeat('eight', 12)).to.contain('is written 8 + 2');
  });

  it('is written as it is typed', () => {
    const text = (before: number, after: number) => repeatText(12, { before, after, times: 3, least: 1 });
    expect([text(1, 1), text(0, 0), text(0, 4)]).to.deep.equal(['10 + 2 × 3', '12 × 3', '0 + 8 + 4 × 3']);
  });
});

describe('the geometry of the chart pane', () => {
  const layout: Layout = {
    columns: 100,
    rows: 50,
    lines: linesOf({ rows: Array(50).fill([]), bands: {} }),
    beyond: { right: 0, left: 0 },
    startOf: () => 0,
    wordLines: 1,
    cell: 20,
    pane: { width: 600, height: 400 },
    scroll: { left: 300, top: 200 },
  };

  it('finds every cell where it was put', () => {
    for (const cell of [
      { row: 0, column: 0 },
      { row: 49, column: 99 },
      { row: 17, column: 42 },
    ]) {
      const x = origin(layout).x + (layout.columns - 1 - cell.column + 0.5) * layout.cell;
      expect(cellAt(layout, x, rowTop(layout, cell.row) + 10)).to.deep.equal(cell);
    }
  });

  it('boxes a run of cells, its right end first', () => {
    const box = cellsBox(layout, 3, 2, 5);
    expect(box).to.include({ width: 80, height: 20 });
    expect(cellAt(layout, box.x + 1, box.y + 1)).to.deep.equal({ row: 3, column: 5 });
    expect(cellAt(layout, box.x + box.width - 1, box.y + 19)).to.deep.equal({ row: 3, column: 2 });
    expect(cellsPane(layout).width).to.equal(600 - 2 * 34);
  });

  it('shows only cells that can be seen, and all of a small chart', () => {
    const seen = visibleWindow(layout)!;
    expect((seen.columns.to - seen.columns.from + 1) * layout.cell).to.be.lessThan(
      layout.pane.width + 2 * layout.cell,
    );
    const lines = linesOf({ rows: Array(3).fill([]), bands: {} });
    const small = { ...layout, columns: 4, rows: 3, lines, scroll: { left: 0, top: 0 } };
    expect(visibleWindow(small)).to.deep.equal({ rows: { from: 0, to: 2 }, columns: { from: 0, to: 3 } });
    expect(contentSize(small)).to.deep.equal(layout.pane);
    expect(onChart(small, { row: 3, column: 0 })).to.be.false;
  });

  it('scrolls a cell into view and leaves one in view alone', () => {
    const there = scrollTo(layout, { row: 0, column: 0 });
    const after = visibleWindow({ ...layout, scroll: there })!;
    expect([after.rows.from, after.columns.from]).to.deep.equal([0, 0]);
    const middle = cellAt(layout, 300, 200);
    expect(scrollTo(layout, middle)).to.deep.equal(layout.scroll);
  });

  it('gives the words what the chart does not need', () => {
    expect(chartPaneWidth(4, 20, 1000, null)).to.equal(220);
    expect(chartPaneWidth(20, 20, 1000, null)).to.equal(492);
    expect(chartPaneWidth(300, 20, 1000, null)).to.equal(640);
    expect(chartPaneWidth(300, 20, 1000, 0.4)).to.equal(400);
  });

  it('fits the width within what reads well', () => {
    const fits = (columns: number, rows: number) => fittingCell(columns, rows, { width: 700, height: 700 });
    expect([fits(10, 40), fits(30, 40), fits(300, 40)]).to.deep.equal([28, 20, 16]);
    // A chart of few rows may be drawn larger.
    expect([fits(10, 8), fits(10, 20)]).to.deep.equal([44, 32]);
  });
});

describe('a fresh id', () => {
  it('is a UUID of version 4, and another each time', () => {
    const ids = Array.from({ length: 200 }, newId);
    for (const id of ids)
      expect(id).to.match(/^[\da-f]{8}-[\da-f]{4}-4[\da-f]{3}-[89ab][\da-f]{3}-[\da-f]{12}$/);
    expect(new Set(ids).size).to.equal(200);
  });
});

describe('the bench', () => {
  const cloth = startChart({ columns: 6, rows: 3, construction: 'flat', ground: 'p' });
  const design = startDesign('00000000-0000-4000-8000-00000000bbbb', 'x', cloth);
  const laid = () => {
    const store = makeStore(makePage(() => Promise.resolve('tab')));
    store.dispatch(bench.cleared({ id: design.id }));
    store.dispatch(outbox.opened(emptyBox('design', design.id, design, 4, '')));
    return store;
  };
  type Store = ReturnType<typeof laid>;
  const box = (store: Store) => onBench(store.getState())!;
  const knit = (row: number) => (c: Chart) => placeStitches(c, row, 0, ['k']);

  it('undoes and does again, and every step of it waits to be saved', () => {
    const store = laid();
    store.dispatch(undo());
    expect(box(store).unsaved).to.deep.equal([]);
    store.dispatch(edit('knit', knit(1)));
    store.dispatch(undo());
    expect(box(store).document.charts[0]!.rows).to.deep.equal(cloth.rows);
    store.dispatch(redo());
    expect(box(store).document.charts[0]!.rows[1]![0]).to.equal('k');
    expect(box(store).unsaved).to.have.length(3);
    store.dispatch(undo());
    store.dispatch(edit('knit', knit(2)));
    expect(box(store).undone).to.deep.equal([]);
  });

  it('undoes as one what one stroke did', () => {
    const store = laid();
    store.dispatch(edit('paint', knit(0), 1));
    store.dispatch(edit('paint', knit(1), 1));
    store.dispatch(edit('paint', knit(2), 2));
    expect(box(store).done.map((d) => d.steps.length)).to.deep.equal([2, 1]);
    expect(box(store).unsaved, 'and is saved step by step').to.have.length(3);
    store.dispatch(undo());
    expect(box(store).document.charts[0]!.rows[1]![0]).to.equal('k');
    store.dispatch(undo());
    expect(box(store).document.charts[0]!.rows).to.deep.equal(cloth.rows);
  });

  it('shares the rows it did not change', () => {
    const store = laid();
    store.dispatch(edit('knit', knit(1)));
    expect(box(store).document.charts[0]!.rows[0]).to.equal(cloth.rows[0]);
  });

  it('keeps edits made while a save was under way', () => {
    const store = laid();
    store.dispatch(edit('knit', knit(1)));
    const [first] = box(store).unsaved;
    store.dispatch(edit('knit', knit(2)));
    const saved = applyChange(design, first!);
    const told = { version: 5, at: 'now', ids: [first!.id], saved };
    store.dispatch(outbox.acknowledged({ id: design.id, ...told }));
    expect(box(store)).to.deep.include({ base: 5, save: { kind: 'waiting' } });
    expect(box(store).unsaved.reduce(applyChange, saved)).to.deep.equal(box(store).document);
    store.dispatch(outbox.acknowledged({ ...told, id: 'another', ids: box(store).unsaved.map((c) => c.id) }));
    expect(box(store).unsaved).to.have.length(1);
  });

  it('takes back an earlier state as a change that can be undone', () => {
    const store = laid();
    store.dispatch(edit('knit', knit(1)));
    const before = box(store).document;
    store.dispatch(edit('rows', (c) => deleteRows(c, 1, 2)));
    expect(store.dispatch(takeBack(before, 'earlier'))).to.be.true;
    expect(box(store).document).to.deep.equal(before);
    store.dispatch(undo());
    expect(box(store).document.charts[0]!.rows).to.have.length(1);
    expect(store.dispatch(takeBack(box(store).document, 'the same'))).to.be.false;
  });

  it('keeps cursor and selection on the chart', () => {
    const store = laid();
    store.dispatch(bench.moved({ cell: { row: 99, column: -3 }, extend: true }));
    const { cursor, anchor } = store.getState().bench;
    expect([cursor, anchor]).to.deep.equal([
      { row: 2, column: 0 },
      { row: 0, column: 0 },
    ]);
    expect(selectionOf({ cursor, anchor })).to.deep.equal({
      columns: { from: 0, to: 0 },
      rows: { from: 0, to: 2 },
    });
    store.dispatch(edit('rows', (c) => deleteRows(c, 1, 2)));
    expect(store.getState().bench.cursor.row).to.equal(0);
  });
});
