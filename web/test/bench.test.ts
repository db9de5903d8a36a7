import {
  applyChange,
  deleteRows,
  placeStitches,
  startChart,
  startDesign,
  simpleCrossing,
  type Chart,
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
import { readEntry } from '../src/bench/entry.js';
import { newId } from '../src/store/newId.js';
import { bench, selectionOf } from '../src/store/bench.js';
import { edit, onBench, redo, takeBack, undo } from '../src/store/editing.js';
import { makeStore } from '../src/store/index.js';
import { emptyBox, outbox } from '../src/store/outbox.js';
import { makePage } from '../src/store/post.js';

describe('keys typed on the chart', () => {
  const typed = (text: string) => readEntry(text, 'front-back');
  const made = (text: string) => {
    const entry = typed(text);
    if (entry.kind !== 'stitches') throw new Error(`${text}: ${entry.kind}`);
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
    expect(readEntry('3/1 r', 'front-back', true)).to.deep.equal({
      kind: 'stitches',
      stitches: [simpleCrossing('right', 3, 1)],
    });
  });

  it('wait for more while there may be more', () => {
    for (const part of ['1', '12', '2/', '2/2', '2/2l', '2/2lp', '2/1/', 'c', 'c4', 't1'])
      expect(typed(part).kind, part).to.equal('more');
  });

  it('refuse what is no run and no crossing, and say why', () => {
    for (const [text, why] of [
      ['0k', 'cannot be worked'],
      ['2/0lc', 'at least one'],
      ['13/2lc', '12 is the most'],
      ['c5f', 'does not say how'],
      ['q', 'not a run or a crossing'],
      ['c0f', 'no crossing'],
    ] as const)
      expect(typed(text)).to.have.property('message').that.contains(why);
  });
});

describe('the geometry of the chart pane', () => {
  const layout: Layout = {
    columns: 100,
    rows: 50,
    beyond: { right: 0, left: 0 },
    startOf: () => 0,
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
    const small = { ...layout, columns: 4, rows: 3, scroll: { left: 0, top: 0 } };
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
    expect(chartPaneWidth(10, 20, 1000)).to.equal(360);
    expect(chartPaneWidth(20, 20, 1000)).to.equal(516);
    expect(chartPaneWidth(300, 20, 1000)).to.equal(640);
  });

  it('fits the width within what reads well', () => {
    expect([fittingCell(10, 700), fittingCell(30, 700), fittingCell(300, 700)]).to.deep.equal([28, 20, 16]);
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
    store.dispatch(outbox.opened(emptyBox(design, 4, '')));
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
