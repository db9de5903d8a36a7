import { stepsBetween } from '../chart/differences.js';
import { ChartSchema, DesignSchema, LIMITS, type Design } from '../chart/schema.js';
import { startDesign } from '../chart/start.js';
import type { Step } from '../chart/steps.js';
import { typedText } from '../measures/typed.js';
import { sameValue } from '../values.js';
import { FileFault } from './csv.js';
import { readChart } from './read-chart.js';
import { readHead, readKey, type SizeRead } from './read-head.js';
import { TABLE_LIMITS, type CellFault, type Sheet } from './table.js';
import { blocksOf, Telling } from './table-parts.js';
import { HEADS, ROW_HEADS } from './tables.js';

/** Tables read back into a design: each fault told by its cell, and nothing taken that is not understood. */

/** What tables give. */
export interface TablesRead {
  /** The design as the tables alone say it; null where a fault stands in the way. */
  design: Design | null;
  /** What keeps it from being read. */
  faults: readonly CellFault[];
  /** What was read otherwise than it stands, or left aside, and why. */
  notes: readonly CellFault[];
  /** Sizes by their marks, for a design that has a piece. */
  sizes: readonly SizeRead[];
}

/**
 * Reads the tables of a design.
 *
 * @param id of the design that is made; the core makes no random numbers
 * @throws FileFault where there are more tables than any design has
 */
export function readTables(sheets: readonly Sheet[], id: string): TablesRead {
  if (sheets.length > TABLE_LIMITS.sheets)
    throw new FileFault(
      `This file has ${sheets.length} sheets; a design has at most ${LIMITS.charts} charts.`,
    );
  const telling = new Telling();
  const blocks = blocksOf(sheets, telling);
  const none = (message: string): TablesRead => ({
    design: null,
    faults: [...telling.faults, { sheet: sheets[0]?.name ?? '', cell: 'A1', message }],
    notes: telling.notes,
    sizes: [],
  });
  if (!blocks.chart.length)
    return none(
      `No table begins with "${HEADS.chart}" in its first cell. A chart's table does; below it stand its rows under "${ROW_HEADS.row}", "${ROW_HEADS.side}" and the numbers of its columns.`,
    );
  if (blocks.chart.length > LIMITS.charts)
    return none(`This file has ${blocks.chart.length} charts; a design has at most ${LIMITS.charts}.`);
  const head = readHead(blocks.design, telling);
  const key = readKey(blocks.key, telling);
  const base = startDesign(id, head.title, PLACEHOLDER);
  const settings = { ...base.settings, school: head.school, units: head.units, names: key.names };
  const charts = blocks.chart.flatMap((block, i) => {
    const chart = readChart(block, i, { said: key.said, naming: settings }, telling);
    return chart ? [chart] : [];
  });
  if (telling.faults.length)
    return { design: null, faults: telling.faults, notes: telling.notes, sizes: head.sizes };
  const design = DesignSchema.safeParse({ ...base, notes: head.notes, settings, charts });
  if (design.success) return { design: design.data, faults: [], notes: telling.notes, sizes: head.sizes };
  const [issue] = design.error.issues;
  return none(issue!.message);
}

const PLACEHOLDER = ChartSchema.parse({ width: 1, rows: [['k']] });

/** The fields that tables hold of a design's head; what else it has they do not. */
const HEAD_TOLD: Readonly<Record<string, string>> = {
  asides: 'sentences that were left aside',
  tags: 'tags',
  sheet: 'how it is printed',
  piece: 'the piece it is set out in',
};
const SETTING_TOLD: Readonly<Record<string, string>> = {
  hand: 'for whose hands it is',
  plain: 'how plain cells are drawn',
  style: 'the style of its words',
  twist: 'how twists are worked',
  twistNames: 'how twists are called',
  cableless: 'steps without a cable needle',
  bobble: 'the size of bobbles',
  names: 'names of crossings that its charts do not use',
  colours: 'colours of crossings',
  rules: 'lines of custom of its own',
  meant: 'what is meant so in the whole design',
  cloth: 'how its cloth is shown',
};

/** What of a design its tables do not hold, in words; what is as in every new design is no loss. */
export function notInTables(design: Design, read: Design): string[] {
  const differs = (a: object, b: object, told: Readonly<Record<string, string>>) =>
    Object.entries(told).flatMap(([field, words]) =>
      sameValue((a as Record<string, unknown>)[field], (b as Record<string, unknown>)[field]) ? [] : [words],
    );
  return [...differs(design, read, HEAD_TOLD), ...differs(design.settings, read.settings, SETTING_TOLD)];
}

/**
 * The steps that bring what tables say into a design they were made of: charts are known by their marks, sizes by theirs; what
 * tables do not hold stays as it is.
 */
export function stepsFromTables(design: Design, { design: read, sizes }: TablesRead): Step[] {
  if (!read) return [];
  const { piece } = design;
  const { units } = design.settings;
  // A table tells a length to a hundredth: one that is told alike is as it was.
  const length = <N extends number | null>(was: N, now: N): N =>
    was !== null && now !== null && typedText(was, units) === typedText(now, units) ? was : now;
  const now: Design = {
    ...design,
    title: read.title,
    notes: read.notes,
    settings: {
      ...design.settings,
      school: read.settings.school,
      units: read.settings.units,
      names: { ...design.settings.names, ...read.settings.names },
    },
    piece: piece && {
      ...piece,
      sizes: piece.sizes.map((size) => {
        const told = sizes.find(({ id }) => id === size.id);
        if (!told) return size;
        return {
          ...size,
          name: told.name || size.name,
          measure: length(size.measure, told.measure),
          ease: length(size.ease, told.ease),
          length: length(size.length, told.length),
        };
      }),
    },
    charts: [
      ...design.charts.map((chart) => read.charts.find(({ id }) => id === chart.id) ?? chart),
      ...read.charts.filter(({ id }) => !design.charts.some((chart) => chart.id === id)),
    ],
  };
  return stepsBetween(design, now);
}
