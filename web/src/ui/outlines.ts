import type { SvgManner } from '@cordelina/core';
import font from '@fontsource/source-sans-3/files/source-sans-3-latin-400-normal.woff?url';

/**
 * Makes letters outlines, so that a drawing looks the same where its fonts are not there.
 *
 * @throws where the font cannot be fetched
 */
export async function outlines(): Promise<NonNullable<SvgManner['outlined']>> {
  const [{ parse }, bytes] = await Promise.all([
    import('opentype.js'),
    fetch(font).then((answer) => answer.arrayBuffer()),
  ]);
  const letters = parse(bytes);
  const before = { start: 0, middle: 0.5, end: 1 } as const;
  return ({ text, size, anchor }) => {
    // Letter by letter: what stands on charts is figures and single letters.
    const glyphs = [...text].map((letter) => letters.charToGlyph(letter));
    const widths = glyphs.map(({ advanceWidth = 0 }) => (advanceWidth * size) / letters.unitsPerEm);
    let x = -before[anchor] * widths.reduce((sum, width) => sum + width, 0);
    return glyphs
      .map((glyph, i) => {
        const d = glyph.getPath(x, 0, size).toPathData(3);
        x += widths[i]!;
        return d;
      })
      .join('');
  };
}
