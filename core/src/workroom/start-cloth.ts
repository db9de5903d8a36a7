import { EditError } from '../chart/edit.js';
import { startChart, type Cloth } from '../chart/start.js';
import { SettingsSchema, type Chart, type Row } from '../chart/schema.js';
import { takesTurns, wayOf } from '../construction/index.js';
import { CLOTH_KINDS } from '../sizes/cloths.js';
import { rowFromWords, RowWordsError } from '../words/row-words.js';

/** Cloths that a new design may begin on: those a piece has beside its charts, and one of rows of the designer's own. */
export const STARTING_CLOTHS = [
  'reverse',
  'stocking',
  'garter',
  'moss',
  'double-moss',
  'rib',
  'wide-rib',
] as const;
export type StartingCloth = (typeof STARTING_CLOTHS)[number] | 'own';

export interface Start extends Omit<Cloth, 'ground'> {
  firstRow: Chart['firstRow'];
  cloth: StartingCloth;
  /** Written rows, one a line, for a cloth of her own. */
  own: string;
}

/** Cloths that show knit where new cells are put in. */
const ON_KNIT: readonly StartingCloth[] = ['stocking', 'garter'];

/**
 * A chart of a cloth.
 *
 * @throws EditError where rows of the designer's own do not make one
 */
export function startOn({ columns, rows, construction, firstRow, cloth, own }: Start): Chart {
  const ground = ON_KNIT.includes(cloth) ? 'k' : 'p';
  const way = wayOf({ construction, firstRow });
  const empty = {
    ...startChart({ columns, rows, construction, ground }),
    ...(takesTurns(way) && { firstRow }),
  };
  if (cloth === 'own') return ofRows(empty, own);
  const { cell } = CLOTH_KINDS[cloth];
  const made = Array.from({ length: rows }, (_, r): Row => {
    const row = { n: r, side: way.sideAt(r), way };
    return Array.from({ length: columns }, (__, c) => cell(c, row));
  });
  // Rows that are alike are one row, so that what is worked out of one is known of all.
  const known = new Map<string, Row>();
  return {
    ...empty,
    rows: made.map((row) => {
      const key = row.join();
      known.set(key, known.get(key) ?? row);
      return known.get(key)!;
    }),
  };
}

/** A cloth of written rows, worked over and over. */
function ofRows(chart: Chart, text: string): Chart {
  const lines = text
    .split(/\r\n|[\r\n]/)
    .map((line) => line.replace(/^\s*(?:row|round|rnd)s?\s*\d+[^:]*:\s*/i, '').trim())
    .filter(Boolean)
    .slice(0, chart.rows.length);
  if (!lines.length)
    throw new EditError('Write the rows of the ground, one on a line: k1, *p1, k1; rep from * to end.');
  const { rowsToSameSide, worked } = wayOf(chart);
  if (lines.length < chart.rows.length && lines.length % rowsToSameSide !== 0)
    throw new EditError(
      `Worked ${worked}, a ground repeats an even number of rows; these are ${lines.length}.`,
    );
  const settings = SettingsSchema.parse({});
  let made = chart;
  lines.forEach((line, r) => {
    try {
      made = { ...made, rows: made.rows.with(r, rowFromWords(made, r, line, settings)) };
    } catch (error) {
      if (!(error instanceof RowWordsError)) throw error;
      throw new EditError(`Row ${r + 1} of the ground: ${error.message}`);
    }
  });
  return { ...made, rows: made.rows.map((_, r) => made.rows[r % lines.length]!) };
}
