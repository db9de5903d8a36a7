import { ChartSchema, crossingId, simpleCrossing, type Chart, type Stitch } from '@cordelina/core';
import { expect } from 'chai';
import { createElement } from 'react';
import { renderToStaticMarkup } from 'react-dom/server';
import { ChartSvg } from '../src/ui/ChartSvg.js';
import { PALETTE, PRINT_INKS, TOKENS } from '@cordelina/core';
import type { Manner } from '../src/ui/paint.js';
import { StitchDrawing } from '../src/ui/StitchDrawing.js';

const P = (text: string): Stitch[] => [...text];
const L22 = simpleCrossing('left', 2, 2);
const manner: Manner = { plain: 'empty', cords: true, grid: true, colours: {}, inks: PRINT_INKS };
const chart = ChartSchema.parse({
  width: 6,
  rows: [P('pkkkkp'), P('pkkkkp'), ['p', L22, 'p'], P('pkkkkp')],
  across: { before: 1, after: 1, times: 2 },
});

/** The numbers printed on the drawing with where they stand. */
function numbers(of: Chart, by = manner): { x: number; y: number; text: string }[] {
  const svg = renderToStaticMarkup(createElement(ChartSvg, { chart: of, manner: by, label: 'x' }));
  return [...svg.matchAll(/<text x="([-\d.]+)" y="([-\d.]+)"[^>]*>(\w+)<\/text>/g)].map(([, x, y, text]) => ({
    x: Number(x),
    y: Number(y),
    text: text!,
  }));
}

describe('the printed chart', () => {
  it('numbers flat rows on the side where they begin, from the bottom, and columns from the right', () => {
    const all = numbers(chart);
    const rows = all.filter((n) => n.x < 0 || n.x > 6);
    expect(rows.map((n) => [n.text, n.x > 6 ? 'right' : 'left'])).to.deep.equal([
      ['1', 'right'],
      ['2', 'left'],
      ['3', 'right'],
      ['4', 'left'],
    ]);
    expect(rows.map((n) => n.y)).to.deep.equal([...rows.map((n) => n.y)].sort((a, b) => b - a));
    const columns = all.filter((n) => n.y > 4);
    expect(columns.find((n) => n.text === '1')!.x).to.equal(5.5);
    expect(columns.find((n) => n.text === '6')!.x).to.equal(0.5);
  });

  it('numbers every round at the right', () => {
    const round = numbers({ ...chart, construction: 'round' }).filter((n) => n.x < 0 || n.x > 6);
    expect(round.every((n) => n.x > 6)).to.be.true;
  });

  it('draws a part of a tall chart with the numbers its rows have', () => {
    const tall = { ...chart, rows: Array.from({ length: 10 }, () => chart.rows[0]!) };
    const svg = renderToStaticMarkup(
      createElement(ChartSvg, {
        chart: tall,
        manner,
        label: 'x',
        part: { rows: { from: 4, to: 6 }, columns: { from: 0, to: 5 }, again: { right: 0, left: 0 } },
      }),
    );
    const shown = [...svg.matchAll(/<text x="(?:-0.25|6.25)"[^>]*>(\d+)<\/text>/g)].map((m) => m[1]);
    expect(shown).to.deep.equal(['5', '6', '7']);
    expect(/viewBox="[^"]* 4.1"/.test(svg)).to.be.true;
  });

  it('shows a coloured crossing with its mark, so that colour never stands alone', () => {
    const colours = { [crossingId(L22)]: 3 };
    const svg = renderToStaticMarkup(
      createElement(ChartSvg, { chart, manner: { ...manner, colours }, label: 'x' }),
    );
    expect(svg).to.contain(PALETTE[3]!.colour);
    expect(svg).to.contain(`>${PALETTE[3]!.mark}</text>`);
  });

  it('is named for those who cannot see it', () => {
    const svg = renderToStaticMarkup(createElement(ChartSvg, { chart, manner, label: 'Chart of a trial' }));
    expect(svg).to.contain('role="img"').and.contain('aria-label="Chart of a trial"');
  });

  it('draws a wide crossing smaller, to fit where it is shown', () => {
    const width = (most: number) =>
      Number(
        /width="([\d.]+)"/.exec(
          renderToStaticMarkup(createElement(StitchDrawing, { stitch: L22, chart, height: 40, most })),
        )![1],
      );
    expect([width(400), width(80)]).to.deep.equal([162, 82]);
  });
});

describe('the colours', () => {
  /** Relative luminance and contrast as WCAG 2.1 defines them. */
  const luminance = (hex: string) => {
    const channel = (i: number) => {
      const c = Number.parseInt(hex.slice(i, i + 2), 16) / 255;
      return c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
    };
    return 0.2126 * channel(1) + 0.7152 * channel(3) + 0.0722 * channel(5);
  };
  const contrast = (a: string, b: string) => {
    const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
    return (light + 0.05) / (dark + 0.05);
  };

  it('of text reach AA on page and paper', () => {
    for (const text of [TOKENS.peat, TOKENS.slate, TOKENS.woad, TOKENS.weld, TOKENS.madder, TOKENS.lichen])
      for (const ground of [TOKENS.fleece, TOKENS.chalk])
        expect(contrast(text, ground), `${text} on ${ground}`).to.be.at.least(4.5);
  });

  it('of the palette carry their mark legibly and differ from each other in more than hue', () => {
    const greys = PALETTE.map((p) => luminance(p.colour));
    for (const { colour } of PALETTE) expect(contrast(TOKENS.peat, colour), colour).to.be.at.least(3);
    expect(new Set(PALETTE.map((p) => p.mark)).size).to.equal(PALETTE.length);
    const sorted = [...greys].sort((a, b) => a - b);
    for (let i = 1; i < sorted.length; i++)
      expect((sorted[i]! + 0.05) / (sorted[i - 1]! + 0.05)).to.be.greaterThan(1.18);
  });
});
