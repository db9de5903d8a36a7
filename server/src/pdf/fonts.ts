import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';

/** The faces a sheet is set in. */
export type Face = 'text' | 'bold' | 'italic' | 'mono';

const FILES: Record<Face, { family: string; cut: string }> = {
  text: { family: 'vollkorn', cut: '400-normal' },
  bold: { family: 'vollkorn', cut: '600-normal' },
  italic: { family: 'vollkorn', cut: '400-italic' },
  mono: { family: 'source-code-pro', cut: '400-normal' },
};

/** Each face comes in parts, a writing system each; a part is opened when a text first needs it. */
const PARTS = ['latin', 'latin-ext', 'greek', 'cyrillic', 'cyrillic-ext', 'vietnamese'] as const;

interface Part {
  name: string;
  bytes: Buffer;
  font: Font;
}

const { resolve } = createRequire(import.meta.url);
const parts = new Map<string, Part | null>();

function partOf(face: Face, system: string): Part | null {
  const name = `${face}-${system}`;
  let part = parts.get(name);
  if (part === undefined) {
    const { family, cut } = FILES[face];
    try {
      const bytes = readFileSync(resolve(`@fontsource/${family}/files/${family}-${system}-${cut}.woff`));
      part = { name, bytes, font: create(bytes) as Font };
    } catch (error) {
      // Not every face has every part.
      if (
        (error as { code?: string }).code !== 'MODULE_NOT_FOUND' &&
        (error as { code?: string }).code !== 'ENOENT'
      )
        throw error;
      part = null;
    }
    parts.set(name, part);
  }
  return part;
}

/** A stretch of a text that one part of a face can set. */
export interface Run {
  text: string;
  part: Part;
  /** It is set as a fraction, out of its figures. */
  isFraction?: boolean;
}

/** Fractions the faces have no sign for, which they set out of figures (the OpenType feature `frac`). */
const FRACTIONS = /[⅐⅑⅒⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞]/;
const FRACTION_SLASH = '\u2044';

const isControl = (character: string): boolean => /\s|\p{Cf}/u.test(character);

/**
 * A text in stretches, each with the part of the face that has its characters. What no part has is set as the sign for
 * a missing character and noted in `missing`.
 */
export function runsOf(text: string, face: Face, missing: Set<string>): Run[] {
  const runs: Run[] = [];
  const first = partOf(face, 'latin')!;
  for (const character of text) {
    const last = runs.at(-1);
    if (FRACTIONS.test(character)) {
      // Taken apart by Unicode itself: one, fraction slash, eight.
      runs.push({
        text: character.normalize('NFKD').replace('/', FRACTION_SLASH),
        part: first,
        isFraction: true,
      });
      continue;
    }
    let part: Part | undefined = isControl(character) ? (last?.part ?? first) : undefined;
    for (const system of PARTS) {
      if (part) break;
      const candidate = partOf(face, system);
      if (candidate?.font.hasGlyphForCodePoint(character.codePointAt(0)!)) part = candidate;
    }
    if (!part) missing.add(character);
    const used = part ?? first;
    if (last?.part === used && !last.isFraction) last.text += character;
    else runs.push({ text: character, part: used });
  }
  return runs;
}
