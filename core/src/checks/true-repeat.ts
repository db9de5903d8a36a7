import { takeAcross, takeUp, trueAcross, trueUp } from '../chart/smallest.js';
import { chartCheck } from './finding.js';
import { counted } from '../values.js';

/** A stated repeat is often longer than the true one: every multiple of it works, and says more than it must. */
export const trueRepeat = chartCheck(
  { tells: { 'repeat-longer-than-true': 'Repeat longer than the true one' }, level: 'note' },
  ({ chart }) => {
    const [across, up] = [trueAcross(chart), trueUp(chart)];
    return [
      {
        way: 'across',
        one: 'column',
        true: across?.columns ?? 0,
        set: across?.declared ?? 0,
        take: takeAcross,
      },
      { way: 'up', one: 'row', true: up?.rows ?? 0, set: up?.declared ?? 0, take: takeUp },
    ].flatMap(({ way, one, true: length, set, take }) =>
      length === set
        ? []
        : [
            {
              id: 'repeat-longer-than-true',
              level: 'note' as const,
              message: `The repeat ${way} is set as ${counted(set, one)}, but every ${length === 1 ? `${one} is the same` : `${counted(length, one)} are the same`}: the smallest true repeat is ${length}.`,
              mend: { label: `Take the smallest repeat ${way}`, edit: take },
            },
          ],
    );
  },
);
