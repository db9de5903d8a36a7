import { startChart, startDesign, SUMMARY_FORM, type Card } from '@cordelina/core';
import { expect } from 'chai';
import { describe, it } from 'mocha';
import { makeStore } from '../src/desk/state/index.js';
import { waitingDesigns, workroom } from '../src/desk/state/workroom.js';
import { emptyBox, outbox } from '../src/sync/outbox.js';
import { cellForWords, linesIn, widthOfWords, WORDS, wordLines } from '../src/bench/geometry.js';
import { seek, tagsOf } from '../src/workroom/seek.js';
import { takeTurn } from '../src/workroom/turns.js';

const card = (
  title: string,
  more: Partial<NonNullable<Card['summary']>> = {},
  savedAt = '2026-01-01',
): Card => ({
  id: title,
  title,
  version: 1,
  savedAt: `${savedAt}T00:00:00.000Z`,
  summaryVersion: 1,
  summary: {
    form: SUMMARY_FORM,
    construction: 'flat',
    columns: 10,
    rows: 10,
    castOn: 10,
    repeats: 1,
    errors: 0,
    cautions: 0,
    yarn: 'fleece',
    second: 'peat',
    tags: [],
    stitches: ['k', 'knit', 'p', 'purl'],
    said: '',
    ...more,
  },
});

describe('seeking a design among many', () => {
  const all = [
    card('Scree mittens', { stitches: ['k', '2/2 LC', '2/2 RC'], tags: ['winter'] }, '2026-01-03'),
    card(
      'Cornice vest',
      { stitches: ['k', '2/1 RPC'], said: 'For the wardens, under the shell.', errors: 2 },
      '2026-01-02',
    ),
    card('Été écharpe', { columns: 200, tags: ['winter', 'men'] }, '2026-01-01'),
    { ...card('Being counted'), summary: null },
  ];
  const found = (text: string, tag: string | null = null) =>
    seek(all, { text, tag, order: 'touched' }).map(({ card: { title } }) => title);

  it('finds it by title, without accents or case', () => {
    expect(found('MITTEN')).to.deep.equal(['Scree mittens']);
    expect(found('ete')).to.deep.equal(['Été écharpe']);
    expect(found('')).to.have.length(4);
    expect(found('nothing of the kind')).to.deep.equal([]);
  });

  it('finds it by the stitches it uses, their names whole, and by what it says; and tells where', () => {
    expect(found('2/2 lc')).to.deep.equal(['Scree mittens']);
    expect(found('2/1 RPC vest')).to.deep.equal(['Cornice vest']);
    expect(seek(all, { text: 'wardens', tag: null, order: 'touched' })[0]!.why).to.contain(
      'the wardens, under',
    );
    expect(seek(all, { text: '2/2 rc', tag: null, order: 'touched' })[0]!.why).to.equal('uses 2/2 RC');
    expect(seek(all, { text: 'mitten', tag: null, order: 'touched' })[0]!.why).to.equal(null);
  });

  it('wants every word, and those in quotation marks together', () => {
    expect(found('vest wardens')).to.deep.equal(['Cornice vest']);
    expect(found('vest mittens')).to.deep.equal([]);
    expect(found('"the shell"')).to.deep.equal(['Cornice vest']);
    expect(found('"shell the"')).to.deep.equal([]);
  });

  it('keeps to a tag, and counts tags', () => {
    expect(found('', 'winter')).to.deep.equal(['Scree mittens', 'Été écharpe']);
    expect(tagsOf(all)).to.deep.equal([
      ['men', 1],
      ['winter', 2],
    ]);
  });

  it('sorts by what is asked', () => {
    const by = (order: 'title' | 'errors' | 'size') =>
      seek(all.slice(0, 3), { text: '', tag: null, order }).map(({ card: { title } }) => title);
    expect(by('title')).to.deep.equal(['Cornice vest', 'Été écharpe', 'Scree mittens']);
    expect(by('errors')[0]).to.equal('Cornice vest');
    expect(by('size')[0]).to.equal('Été écharpe');
  });
});

describe('the room words have beside a chart', () => {
  const LETTER = 7.5;
  const sheet = { width: 1188, height: 640 };
  const words = (n: number) =>
    Array.from({ length: Math.ceil(n / 4) }, () => 'k1,')
      .join(' ')
      .slice(0, n);

  it('is had in one line with cells of a good size, else in two with cells that are high enough', () => {
    const short = cellForWords({ columns: 20, rows: 16, texts: [words(40)] }, LETTER, sheet)!;
    expect(short).to.be.at.least(20);
    const long = cellForWords({ columns: 28, rows: 16, texts: [words(96)] }, LETTER, sheet)!;
    expect(linesIn(long)).to.equal(2);
    const chart = 28 * long + 92;
    expect(chart + widthOfWords([words(96)], 2, LETTER)).to.be.at.most(sheet.width);
  });

  it('is none where both are too wide, and then nothing is promised', () => {
    expect(cellForWords({ columns: 200, rows: 16, texts: [words(400)] }, LETTER, sheet)).to.equal(null);
    expect(cellForWords({ columns: 28, rows: 16, texts: [words(300)] }, LETTER, sheet)).to.equal(null);
  });

  it('breaks words at their spaces: as wide as the worst of them wants', () => {
    const one = widthOfWords(['aaaa bbbb cccc dddd'], 2, 10) - widthOfWords([''], 1, 10);
    // "aaaa bbbb" and "cccc dddd": nine letters of the small size.
    expect(one).to.be.closeTo(9 * 10 * (WORDS.small / WORDS.font) - 10, 1.1);
    expect(wordLines([words(20)], 30, LETTER, 600)).to.equal(1);
    expect(wordLines([words(90)], 30, LETTER, 500)).to.equal(2);
    expect(wordLines([words(90)], 18, LETTER, 500)).to.equal(1);
    expect(wordLines([words(90)], 30, LETTER, 200)).to.equal(1);
  });
});

describe('designs whose edits only this browser holds', () => {
  it('are told as they are, not as the disk knew them before they were sent', () => {
    const id = crypto.randomUUID();
    const store = makeStore();
    const waits = () => waitingDesigns(store.getState()).has(id);
    store.dispatch(workroom.heldHere({ waiting: [id], kept: [id] }));
    expect(waits()).to.be.true;
    const chart = startChart({ columns: 2, rows: 2, construction: 'flat', ground: 'p' });
    const box = emptyBox('design', id, startDesign(id, 'Trial', chart), 1, '');
    // Open, it is what its outbox says, whatever the disk has yet.
    store.dispatch(outbox.opened(box));
    expect(waits()).to.be.false;
    store.dispatch(outbox.opened({ ...box, unsaved: [{ id: crypto.randomUUID(), label: '', steps: [] }] }));
    expect(waits()).to.be.true;
    store.dispatch(outbox.opened(box));
    store.dispatch(outbox.closed({ id }));
    expect(waits()).to.be.false;
  });
});

describe('pictures in turns', () => {
  it('are two at once, in the order they were asked for; one that is no longer wanted is passed over', () => {
    const begun: number[] = [];
    const over = [0, 1, 2, 3, 4].map((n) => takeTurn(() => begun.push(n)));
    expect(begun).to.deep.equal([0, 1]);
    over[2]!();
    expect(begun).to.deep.equal([0, 1]);
    over[0]!();
    over[0]!();
    expect(begun).to.deep.equal([0, 1, 3]);
    over[1]!();
    expect(begun).to.deep.equal([0, 1, 3, 4]);
    for (const end of over) end();
    const end = takeTurn(() => begun.push(5));
    expect(begun.at(-1)).to.equal(5);
    end();
  });
});
