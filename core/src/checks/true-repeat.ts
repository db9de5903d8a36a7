import { takeAcross, takeUp, trueAcross, trueUp } from '../chart/smallest.js';
import { counted, fixIf, type Check, type Finding } from './finding.js';

/** A stated repeat is often longer than the true one: every multiple of it works, and says more than it must. */
export const trueRepeat: Check = ({ chart }) => {
  const found: Finding[] = [];
  const across = trueAcross(chart);
  if (across && across.columns < across.declared)
    found.push({
      id: 'repeat-longer-than-true',
      level: 'note',
      message: `The repeat across is set as ${counted(across.declared, 'column')}, but every ${across.columns === 1 ? 'column is the same' : `${across.columns} columns are the same`}: the smallest true repeat is ${across.columns}.`,
      fix: fixIf(() => takeAcross(chart), 'take the smallest repeat across'),
    });
  const up = trueUp(chart);
  if (up && up.rows < up.declared)
    found.push({
      id: 'repeat-longer-than-true',
      level: 'note',
      message: `The repeat up is set as ${counted(up.declared, 'row')}, but every ${up.rows === 1 ? 'row is the same' : `${up.rows} rows are the same`}: the smallest true repeat is ${up.rows}.`,
      fix: fixIf(() => takeUp(chart), 'take the smallest repeat up'),
    });
  return found;
};
