import { expect } from 'chai';
import { OwnStitchSchema, STITCH_KINDS, stitchBook, takesOf, spanOf, NO_STITCH } from '../src/index.js';
import { continuesOf, makesOf } from '../src/stitches/book.js';
import { faceOf } from '../src/stitches/face.js';
import { freshNeedle, workStitches } from '../src/needle/needle.js';

const kind = (id: string) => STITCH_KINDS.get(id)!;

describe('the table of stitches', () => {
  // Takes and makes of the abbreviations in the trade's published lists (Craft Yarn Council; from memory).
  const PUBLISHED: [id: string, rs: string, ws: string, takes: number, makes: number][] = [
    ['k', 'k#', 'p#', 1, 1],
    ['p', 'p#', 'k#', 1, 1],
    ['ktbl', 'k# tbl', 'p# tbl', 1, 1],
    ['ptbl', 'p# tbl', 'k# tbl', 1, 1],
    ['slyb', 'sl # wyib', 'sl # wyif', 1, 1],
    ['slyf', 'sl # wyif', 'sl # wyib', 1, 1],
    ['mb', 'MB', 'MB', 1, 1],
    ['yo', 'yo', 'yo', 0, 1],
    ['m1l', 'M1L', 'M1LP', 0, 1],
    ['m1r', 'M1R', 'M1RP', 0, 1],
    ['m1lp', 'M1LP', 'M1L', 0, 1],
    ['m1rp', 'M1RP', 'M1R', 0, 1],
    ['lli', 'LLI', 'RLIP', 0, 1],
    ['rli', 'RLI', 'LLIP', 0, 1],
    ['kfb', 'kfb', 'k-p', 1, 2],
    ['kfbr', 'p-k', 'pfb', 1, 2],
    ['kyok', 'k-yo-k', 'p-yo-p', 1, 3],
    ['kyokyok', 'k-yo-k-yo-k', 'p-yo-p-yo-p', 1, 5],
    ['k2tog', 'k2tog', 'p2tog', 2, 1],
    ['ssk', 'ssk', 'ssp', 2, 1],
    ['p2tog', 'p2tog', 'k2tog', 2, 1],
    ['ssp', 'ssp', 'ssk', 2, 1],
    ['k3tog', 'k3tog', 'p3tog', 3, 1],
    ['sssk', 'sssk', 'sssp', 3, 1],
    ['p3tog', 'p3tog', 'k3tog', 3, 1],
    ['sssp', 'sssp', 'sssk', 3, 1],
    ['cdd', 'cdd', 'cddp', 3, 1],
    ['cddp', 'cddp', 'cdd', 3, 1],
    ['k5tog', 's3k2p', 's3p2p', 5, 1],
    ['p5tog', 's3p2p', 's3k2p', 5, 1],
  ];
  for (const [id, rs, ws, takes, makes] of PUBLISHED)
    it(`${id}: ${rs} on the right side, ${ws} on the wrong side, ${takes} → ${makes}`, () => {
      const found = kind(id);
      expect([found.rs, found.ws, found.takes, found.makes]).to.deep.equal([rs, ws, takes, makes]);
    });

  it('lists every kind but the gap above', () => {
    expect([...STITCH_KINDS.keys()].sort()).to.deep.equal([...PUBLISHED.map(([id]) => id), NO_STITCH].sort());
  });

  it('gives no two kinds one word on a side', () => {
    for (const side of ['rs', 'ws'] as const) {
      const words = [...STITCH_KINDS.values()]
        .filter((k) => k.id !== NO_STITCH && k.id !== 'mb')
        .map((k) => k[side]);
      expect(new Set(words).size).to.equal(words.length);
    }
  });

  it('covers a column for every loop made, and one where none is', () => {
    for (const k of STITCH_KINDS.values()) expect(k.span, k.id).to.equal(Math.max(1, k.makes));
  });

  it('has mirrors that lead back', () => {
    for (const k of STITCH_KINDS.values()) expect(kind(k.mirror).mirror, k.id).to.equal(k.id);
  });

  it('shows on the RS the face its WS word works from behind', () => {
    // A word that begins with k works a knit as seen by the hands, which is a purl from the other side.
    for (const k of STITCH_KINDS.values()) {
      if (k.faces === 'below' || k.group === 'gap' || k.id === 'mb' || k.id === 'yo') continue;
      const purled = /^(p|M1.P|.LIP|ss+p|cddp|s3p2p)/.test(k.ws);
      // From behind the leftmost of its loops is worked first.
      expect(purled ? 'knit' : 'purl', k.id).to.equal(k.faces.at(-1));
    }
  });

  it('has the bar of a knit front and back where the chart shows it, from either side and in a mirror', () => {
    // From memory: kfb leaves its bar on the loop worked second; knit and purl into one leave theirs as worked.
    const worked = (word: string): ('knit' | 'purl')[] =>
      ({ kfb: ['knit', 'purl'], pfb: ['purl', 'knit'], 'k-p': ['knit', 'purl'], 'p-k': ['purl', 'knit'] })[
        word
      ] as ('knit' | 'purl')[];
    const other = { knit: 'purl', purl: 'knit' } as const;
    for (const id of ['kfb', 'kfbr']) {
      const { rs, ws, faces, mirror } = STITCH_KINDS.get(id)!;
      expect(worked(rs), id).to.deep.equal(faces);
      // A wrong-side row meets the loops from the left, and sees their other faces.
      expect(
        worked(ws)
          .map((face) => other[face])
          .reverse(),
        id,
      ).to.deep.equal(faces);
      expect(STITCH_KINDS.get(mirror)!.faces).to.deep.equal([...faces].reverse());
    }
  });

  it('has the centre of a central decrease on top from either side (custom)', () => {
    // The centre and those met before it are slipped as one, so that it leads, and are passed over the rest.
    for (const id of ['cdd', 'cddp', 'k5tog', 'p5tog']) {
      const { takes, rsSteps, wsSteps } = STITCH_KINDS.get(id)!;
      for (const steps of [rsSteps, wsSteps]) {
        const slipped =
          /^slip (\d) stitches (?:together knitwise|knitwise one at a time, return them, slip them together through the back loops),/.exec(
            steps,
          );
        expect(Number(slipped?.[1]), `${id}: ${steps}`).to.equal((takes + 1) / 2);
        expect(steps).to.match(new RegExp(`pass the ${(takes + 1) / 2} slipped stitches over$`));
      }
    }
  });

  it('continues the loop that lies on top of a decrease', () => {
    const book = stitchBook();
    expect(continuesOf('k2tog', book)).to.deep.equal([1]);
    expect(continuesOf('ssk', book)).to.deep.equal([0]);
    expect(continuesOf('cdd', book)).to.deep.equal([1]);
    expect(continuesOf('yo', book)).to.deep.equal([-1]);
  });
});

describe("a designer's own stitch", () => {
  const own = {
    id: 'own-nub',
    name: 'nub',
    takes: 1,
    makes: 3,
    span: 3,
    faces: ['knit', 'purl', 'knit'],
    marks: ['ring'],
    rs: 'nub',
    ws: 'nubw',
    rsSteps: 'knit, purl, knit into the stitch',
    wsSteps: 'purl, knit, purl into the stitch',
  };

  it('joins the table and is worked like the others', () => {
    const book = stitchBook([OwnStitchSchema.parse(own)]);
    expect([takesOf('own-nub', book), makesOf('own-nub', book), spanOf('own-nub', book)]).to.deep.equal([
      1, 3, 3,
    ]);
    expect(workStitches(['k', 'own-nub'], freshNeedle(2), book).loops.map(({ face }) => face)).to.deep.equal([
      'knit',
      'knit',
      'purl',
      'knit',
    ]);
  });

  for (const [what, wrong] of [
    ['faces that do not match what it makes', { faces: ['knit'] }],
    ['no loops at all', { takes: 0, makes: 0, faces: [], span: 1 }],
    ['a span below what it makes', { span: 1 }],
    ['a word that could be read as a repeat', { rs: '[nub' }],
  ] as const)
    it(`is refused with ${what}`, () => {
      expect(OwnStitchSchema.safeParse({ ...own, ...wrong }).success).to.be.false;
    });

  it('shows the face of what is worked', () => {
    expect([faceOf('k'), faceOf('ptbl')]).to.deep.equal(['knit', 'purl']);
  });
});
