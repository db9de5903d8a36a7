import { EditError, layMotif, layOwnMotif, rowTitle, type Chart, type Edit } from '@cordelina/core';
import { useState } from 'react';
import { MotifShelf, type Chosen } from '../desk/motifs/MotifShelf.js';
import type { Cell } from '../desk/state/bench.js';
import { addMotifChart } from '../desk/state/charts.js';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import type { Manner } from '../ui/paint.js';
import { SheetDialog } from '../ui/Sheet.js';

const laid =
  ({ motif }: Chosen, { row, column }: Cell) =>
  (c: Chart): Edit =>
    'rule' in motif
      ? layMotif(c, row, column, motif.rule, motif.said, motif.times)
      : layOwnMotif(c, row, column, motif.own);

/** The motif shelf on the bench: a motif is laid at the cursor, or made into a chart of its own. */
export function MotifDialog({
  chart,
  cursor,
  manner,
  open,
  onOpenChange,
}: {
  chart: Chart;
  cursor: Cell;
  manner: Manner;
  open: boolean;
  onOpenChange: (open: boolean) => void;
}) {
  const dispatch = useAppDispatch();
  const [error, setError] = useState<string | null>(null);
  const close = (o: boolean) => {
    setError(null);
    onOpenChange(o);
  };
  /** Tried first, so that what cannot be done is said here and not behind the dialog. */
  const lay = (chosen: Chosen) => {
    try {
      laid(chosen, cursor)(chart);
    } catch (e) {
      if (!(e instanceof EditError)) throw e;
      setError(e.message);
      return;
    }
    dispatch(edit(`lay ${chosen.name.toLowerCase()}`, laid(chosen, cursor)));
    close(false);
  };
  return (
    <SheetDialog
      open={open}
      onOpenChange={close}
      title="Motif shelf"
      note={`Traditional ropes built to measure, and your own. Laid with the lower right corner at ${rowTitle(chart, cursor.row + 1).toLowerCase()}, column ${cursor.column + 1}.`}
      wide
    >
      {open && (
        <MotifShelf
          manner={manner}
          actions={(chosen) => (
            <>
              {error && (
                <p role="alert" className="mr-auto max-w-[420px] text-[14px] text-madder">
                  {error}
                </p>
              )}
              <Button
                disabled={!chosen}
                onClick={() => {
                  if (chosen && dispatch(addMotifChart(chosen.chart))) close(false);
                }}
              >
                As a chart of its own
              </Button>
              <Button tone="main" disabled={!chosen} onClick={() => chosen && lay(chosen)}>
                Lay it at the cursor
              </Button>
            </>
          )}
        />
      )}
    </SheetDialog>
  );
}
