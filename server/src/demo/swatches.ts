import { lengthOf, SwatchSchema, type Swatch } from '@cordelina/core';

/** Swatches of the Moraine Hut kit, as the studio measured them. All invented. */

const CORNICE = '5c0ee000-0000-4000-8000-000000000002';
const BIVOUAC = '5c0ee000-0000-4000-8000-000000000004';
const SCREE = '5c0ee000-0000-4000-8000-000000000001';

const HUT = { yarn: 'Hut store wool', weight: 4, fibre: 'wool' };
const FELL = { yarn: 'Fell two-ply', weight: 2, fibre: 'wool' };

/** Readings as counts over so many centimetres. */
const read = (...of: [count: number, cm: number][]) =>
  of.map(([count, cm]) => ({ count, over: lengthOf(cm, 'cm') }));

export function demoSwatches(): Swatch[] {
  const id = (n: number) => `5a7c4000-0000-4000-8000-00000000000${n}`;
  return [
    {
      id: id(1),
      name: 'Cornice, diamonds',
      of: { design: CORNICE, chart: 'chart' },
      needle: 4,
      ...HUT,
      before: { stitches: read([26, 10]), rows: read([28, 10]) },
      after: { stitches: read([25, 10], [38, 15], [24.5, 10]), rows: read([27, 10], [40, 15]) },
      grams: 34,
      whole: { stitches: 44, rows: 52 },
      notes: 'Ropes stand well after the wash. The needle of the vest.',
    },
    {
      id: id(2),
      name: 'Hut wool, stocking stitch',
      cloth: 'plain',
      needle: 4,
      ...HUT,
      before: { stitches: read([20.5, 10]), rows: read([27.5, 10]) },
      after: { stitches: read([20, 10], [30, 15]), rows: read([27, 10]) },
      grams: 21,
      whole: { stitches: 36, rows: 44 },
    },
    {
      id: id(3),
      name: 'Bivouac lattice',
      of: { design: BIVOUAC, chart: 'chart' },
      needle: 4.5,
      ...HUT,
      before: { stitches: read([27, 10]), rows: read([26, 10]) },
      after: { stitches: read([26, 10], [25.5, 10], [29, 10]), rows: read([25, 10]) },
      notes: 'The third reading was taken at the edge, where it pulls in.',
    },
    {
      id: id(4),
      name: 'Hut wool, larger needle',
      cloth: 'plain',
      needle: 4.5,
      ...HUT,
      after: { stitches: read([18.5, 10], [28, 15]), rows: read([25.5, 10]) },
    },
    {
      id: id(5),
      name: 'Scree plait',
      of: { design: SCREE, chart: 'chart' },
      needle: 3.25,
      ...FELL,
      before: { stitches: read([33, 10]), rows: read([36, 10]) },
      after: { stitches: read([32, 10]), rows: read([35, 10]) },
      grams: 12,
      whole: { stitches: 40, rows: 48 },
    },
    {
      id: id(6),
      name: 'Fell two-ply, stocking stitch',
      cloth: 'plain',
      needle: 3.25,
      ...FELL,
      before: { stitches: read([25.5, 10]), rows: read([35, 10]) },
      after: { stitches: read([25, 10]), rows: read([34, 10]) },
    },
  ].map((swatch) => SwatchSchema.parse(swatch));
}
