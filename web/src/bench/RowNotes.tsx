import type { Note } from '@cordelina/core';
import { NotebookPen } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { onBench } from '../desk/state/editing.js';
import { useAppSelector } from '../desk/state/index.js';
import { useNotes } from '../desk/useNotes.js';

/** What was noticed, in a line. */
const lineOf = ({ text, count, by }: Note): string =>
  `${by}: ${[text, count && `counted ${count.found} instead of ${count.said}`].filter(Boolean).join('; ') || 'a photo'}`;

/** What knitters noticed in the rows of a chart and nobody has closed, by row from 0. */
export function useRowNotes(chart: string): ReadonlyMap<number, string> {
  const id = useAppSelector((s) => onBench(s)!.document.id);
  const notes = useNotes(id);
  return useMemo(() => {
    const rows = new Map<number, string>();
    for (const note of notes)
      if (note.chart === chart && note.row !== null && note.state !== 'closed')
        rows.set(note.row, [rows.get(note.row), lineOf(note)].filter(Boolean).join('\n'));
    return rows;
  }, [notes, chart]);
}

/** The cells of a chart in which something was noticed, and nobody has closed it. */
export function useNotedCells(chart: string): readonly { row: number; column: number }[] {
  const id = useAppSelector((s) => onBench(s)!.document.id);
  const notes = useNotes(id);
  return useMemo(
    () =>
      notes.flatMap(({ chart: of, row, column, state }) =>
        of === chart && row !== null && column !== null && state !== 'closed' ? [{ row, column }] : [],
      ),
    [notes, chart],
  );
}

/** Stands beside a row that a knitter noticed something in, and leads to the notes. */
export function RowNote({ row, said }: { row: number; said: string }) {
  const id = useAppSelector((s) => onBench(s)!.document.id);
  return (
    <Link
      to={`/designs/${id}/needles?tab=notes`}
      title={said}
      aria-label={`Notes of row ${row + 1}: ${said}`}
      className="grid h-6 min-h-0 w-6 shrink-0 place-items-center rounded-sm text-weld hover:bg-wash"
      data-testid="row-note"
    >
      <NotebookPen size={14} aria-hidden />
    </Link>
  );
}
