import {
  acceptPlace,
  applyChange,
  crossingId,
  crossingOf,
  meantKey,
  StepMisfit,
  takeBackPlaces,
  type Chart,
  type Design,
  type Finding,
  type Fix,
} from '@cordelina/core';
import { useCallback, useMemo, useState } from 'react';
import type { Run } from '../desk/state/bench.js';
import { editHead, editOwn, make } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { useChecks } from '../workers/useChecks.js';
import type { Acceptance } from './MeantButton.js';

const NONE: readonly Run[] = [];

/** The chart after a mend; null where the mend no longer fits, or the chart would have another shape. */
function after(design: Design, chart: Chart, { fix }: Finding): Chart | null {
  if (!fix) return null;
  try {
    const mended = applyChange(design, fix).charts.find((c) => c.id === chart.id);
    const isSameShape = mended?.width === chart.width && mended.rows.length === chart.rows.length;
    return mended && isSameShape ? mended : null;
  } catch (error) {
    if (error instanceof StepMisfit) return null;
    throw error;
  }
}

/** The cells beside which a mend puts rows or columns in, or that it takes out: shown where the chart would change its shape. */
function cellsOf(chart: Chart, { fix }: Finding): Run[] {
  return (fix?.steps ?? []).flatMap((step): Run[] => {
    if (step.kind === 'rows') {
      const many = step.done === 'out' ? step.rows.length : 1;
      return chart.rows
        .slice(step.at, step.at + many)
        .map((_, i) => ({ row: step.at + i, from: 0, to: chart.width - 1 }));
    }
    if (step.kind !== 'columns') return [];
    const many = step.done === 'out' ? step.count : 1;
    const from = Math.min(step.at, chart.width - 1);
    return chart.rows.map((_, row) => ({ row, from, to: Math.min(from + many, chart.width) - 1 }));
  });
}

/** Whether the finding whose mend is being tried is still told, with that mend. */
const isThere = (findings: readonly Finding[], trying: Finding | null): trying is Finding =>
  trying !== null &&
  findings.some((f) => f.id === trying.id && (f.fix === trying.fix || f.others?.includes(trying.fix!)));

/** What the checks find in the chart on the bench, and what can be done about each: mended, tried first, or accepted. */
export function useFindings(design: Design, chart: Chart) {
  const dispatch = useAppDispatch();
  const { settings } = design;
  const { meant } = settings;
  const { findings, state } = useChecks(design, chart.id);

  const [trying, setTrying] = useState<Finding | null>(null);
  const tried = useMemo(
    () => (isThere(findings, trying) ? after(design, chart, trying) : null),
    [trying, findings, design, chart],
  );

  const touched = useMemo(
    () => (!tried && isThere(findings, trying) ? cellsOf(chart, trying) : NONE),
    [trying, tried, findings, chart],
  );

  const mend = useCallback(
    (fix: Fix) => {
      dispatch(make({ ...fix, id: newId() }));
    },
    [dispatch],
  );
  const accept = useCallback(
    (finding: Finding, { of, reason }: Acceptance) => {
      const { id: check, row, columns } = finding;
      if (of === 'place' && row !== undefined) {
        const place = { check, row: row - 1, ...(columns && { column: columns[0] - 1 }), reason };
        dispatch(editOwn('accept a finding', (c) => acceptPlace(c, newId(), place)));
        return;
      }
      const crossing = of === 'crossing' ? crossingOf(finding, chart) : null;
      const key = meantKey(check, crossing ? crossingId(crossing) : undefined);
      dispatch(
        editHead('accept a finding', {
          settings: { ...settings, meant: { ...settings.meant, [key]: reason } },
        }),
      );
    },
    [dispatch, chart, settings],
  );
  const takeBack = useCallback(
    (finding: Finding) => {
      const { id: check, row, columns } = finding;
      const crossing = crossingOf(finding, chart);
      const own = crossing && meantKey(check, crossingId(crossing));
      const isPlace = Object.values(chart.meant).some((p) => p.check === check && p.row + 1 === row);
      if (isPlace && row !== undefined) {
        const column = columns && columns[0] - 1;
        dispatch(editOwn('a finding is not meant', (c) => takeBackPlaces(c, check, row - 1, column)));
        return;
      }
      const key = own && meant[own] !== undefined ? own : meantKey(check);
      const { [key]: _, ...others } = meant;
      dispatch(editHead('a finding is not meant', { settings: { ...settings, meant: others } }));
    },
    [dispatch, chart, settings, meant],
  );
  return { findings, state, tried, touched, setTrying, mend, accept, takeBack };
}
