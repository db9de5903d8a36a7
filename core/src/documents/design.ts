import { stepsBetween } from '../chart/differences.js';
import { readDesign } from '../chart/migrate.js';
import { rebase } from '../chart/rebase.js';
import type { Design } from '../chart/schema.js';
import { applySteps, type Step } from '../chart/steps.js';
import type { Kind } from './kind.js';

const HEADS: Readonly<Record<string, string>> = { title: 'Title', notes: 'Notes' };
const FRAMES: Readonly<Record<string, string>> = {
  across: 'Repeat across',
  up: 'Repeat up',
  own: 'A stitch of your own',
  construction: 'Way of working',
  firstRow: 'Side of row 1',
  ground: 'Ground',
  name: 'Name of the chart',
};

/** Row by row and setting by setting. */
function placeOf(step: Step, { charts }: Design): readonly [string, string] {
  if (step.kind === 'cells') {
    const name = charts.length > 1 ? charts.find((c) => c.id === step.chart)?.name : '';
    return [`${step.chart} ${step.row}`, `${name ? `${name}, row` : 'Row'} ${step.row + 1}`];
  }
  if (step.kind !== 'set') return ['charts', 'The whole chart'];
  const [head, second, third] = step.path;
  if (head !== 'charts')
    return [step.path.join(' '), HEADS[head!] ?? `Setting: ${step.path.slice(1).join(', ')}`];
  return [`${second} ${third}`, FRAMES[third!] ?? `Chart: ${third}`];
}

export const DESIGN: Kind<Design> = {
  name: 'design',
  most: null,
  isListedWhole: false,
  read: readDesign,
  titleOf: ({ title }) => title,
  apply: applySteps,
  rebase,
  between: stepsBetween,
  placeOf,
};
