import { timesOf, withRepeats, type Met } from '../chart/frame.js';
import { rowUse } from '../chart/rows.js';
import { NO_STITCH } from '../stitches/kinds.js';
import { rowCheck, type Found } from './finding.js';

/**
 * A float over more stitches than the custom is (five) catches fingers and pulls in (custom). It is followed over gaps and over the
 * lines of the repeat; floats at the back and in front are two.
 */
export const longFloat = rowCheck(
  { tells: { 'long-float': 'Long float' }, level: 'caution', reads: ['rules'] },
  ({ chart, rules: { longestFloat } }, r) => {
    const use = rowUse(chart.rows[r]!);
    if (!use.has('slyb') && !use.has('slyf')) return [];
    const found = new Map<string, Found>();
    let run: Met[] = [];
    const close = () => {
      if (run.length > longestFloat) {
        const columns: [number, number] = [
          Math.min(...run.map((m) => m.from)),
          Math.max(...run.map((m) => m.to)),
        ];
        const where = run[0]!.stitch === 'slyf' ? 'in front' : 'at the back';
        if (!found.has(columns.join()))
          found.set(columns.join(), {
            id: 'long-float',
            level: 'caution',
            row: r + 1,
            columns,
            message: `Row ${r + 1}: the float ${where} passes ${run.length} slipped stitches; over more than ${longestFloat} it catches and pulls in.`,
          });
      }
      run = [];
    };
    for (const met of withRepeats(chart, r, Math.min(timesOf(chart), longestFloat + 2))) {
      if (met.stitch === NO_STITCH) continue;
      const isSlip = met.stitch === 'slyb' || met.stitch === 'slyf';
      if (!isSlip || (run.length && run[0]!.stitch !== met.stitch)) close();
      if (isSlip) run.push(met);
    }
    close();
    return [...found.values()];
  },
);
