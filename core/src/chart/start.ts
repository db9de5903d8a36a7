import { groundRow } from './edits.js';
import { FORMAT, SettingsSchema, SheetSchema, type Chart, type Design } from './schema.js';

/** A starting cloth: its size in columns and rows, how it is worked, and what it is made of. */
export interface Cloth {
  columns: number;
  rows: number;
  construction: Chart['construction'];
  ground: Chart['ground'];
}

export function startChart({ columns, rows, construction, ground }: Cloth): Chart {
  const row = groundRow({ width: columns, ground });
  return {
    id: 'chart',
    name: '',
    width: columns,
    construction,
    firstRow: 'RS',
    bothFaces: false,
    ground,
    rows: Array.from({ length: rows }, () => row),
    across: null,
    up: null,
    jogs: {},
    bands: {},
    mirror: null,
    part: 'piece',
    meant: {},
    own: [],
  };
}

/** A new design of one chart; the caller brings the id, since the core makes no random numbers. */
export function startDesign(id: string, title: string, chart: Chart): Design {
  return {
    format: FORMAT,
    id,
    title,
    notes: '',
    asides: [],
    tags: [],
    settings: SettingsSchema.parse({}),
    sheet: SheetSchema.parse({}),
    piece: null,
    charts: [chart],
  };
}
