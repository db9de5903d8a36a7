import {
  closedRopesHeight,
  convertClosedRopes,
  drawClosedRopes,
  EditError,
  startChart,
  type Chart,
  type Edit,
  type ClosedRopes,
  type ClosedSchool,
  FLAT,
  counted,
} from '@cordelina/core';
import { useMemo } from 'react';
import { Controller, useForm, useWatch } from 'react-hook-form';
import { bench, type Cell } from '../desk/state/bench.js';
import { edit } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { ChartSvg } from '../ui/ChartSvg.js';
import { Choose } from '../ui/Field.js';
import type { Manner } from '../ui/paint.js';
import { SheetDialog } from '../ui/Sheet.js';

const SCHOOLS: Record<ClosedSchool, string> = {
  between: 'between stitches: lifted increases, three rows to begin and to end',
  within: 'within a stitch: five out of one, five into one, a purl in the middle',
};

type Shape = Omit<ClosedRopes, 'row' | 'column'>;

const FIRST: Shape = { school: 'between', lean: 'left', spread: 2, rest: 1 };

/** Opens and closes a pair of ropes at the cursor, or turns the figure there into the other school's. */
export function ClosedRopesDialog({
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
  const { control, setError, clearErrors, formState } = useForm<Shape>({ defaultValues: FIRST });
  const shape = useWatch({ control }) as Shape;
  const error = formState.errors.root?.message;
  const figure: ClosedRopes = { ...shape, row: cursor.row, column: cursor.column };
  const height = closedRopesHeight(figure);
  const ground = shape.spread + 1;
  const preview = useMemo(() => {
    // Ropes between stitches are lifted from a row below, which the picture leaves out.
    const below = 2;
    const columns = 2 * (shape.spread + 1) + (shape.school === 'within' ? 1 : 0);
    const cloth = startChart({
      columns,
      rows: below + closedRopesHeight({ ...shape, row: below, column: 0 }),
      construction: FLAT.id,
      ground: 'p',
    });
    const drawn = drawClosedRopes(cloth, {
      ...shape,
      row: below,
      column: shape.school === 'within' ? shape.spread + 1 : shape.spread,
    }).chart;
    return { ...drawn, rows: drawn.rows.slice(below) };
  }, [shape]);

  // What stands in the way here is said before anything is asked for.
  const inTheWay = useMemo(() => {
    if (!open) return null;
    try {
      drawClosedRopes(chart, { ...shape, row: cursor.row, column: cursor.column });
      return null;
    } catch (e) {
      if (!(e instanceof EditError)) throw e;
      return e.message;
    }
  }, [open, chart, shape, cursor]);

  /** Tries it first, so that what cannot be done is said here and not behind the dialog. */
  const act = (label: string, change: (c: Chart) => Edit & { said: string }) => {
    try {
      const { said } = change(chart);
      dispatch(edit(label, change));
      dispatch(bench.said({ text: said, tone: 'said' }));
      clearErrors();
      onOpenChange(false);
    } catch (e) {
      if (!(e instanceof EditError)) throw e;
      setError('root', { message: e.message });
    }
  };

  return (
    <SheetDialog
      open={open}
      onOpenChange={(o) => {
        clearErrors();
        onOpenChange(o);
      }}
      title="Closed ropes"
      note={`A pair of ropes that rises out of the purl ground and ends in it, at row ${cursor.row + 1}, column ${cursor.column + 1}.`}
      wide
    >
      <div className="grid grid-cols-[1fr_240px] gap-6">
        <div className="grid content-start gap-3.5">
          <Controller
            name="school"
            control={control}
            render={({ field: { value, onChange } }) => (
              <Choose
                label="They rise"
                hint={SCHOOLS[shape.school]}
                value={value}
                onChange={onChange}
                options={[
                  ['between', 'between stitches'],
                  ['within', 'within a stitch'],
                ]}
              />
            )}
          />
          <div className="grid grid-cols-3 gap-3.5">
            <Controller
              name="lean"
              control={control}
              render={({ field: { value, onChange } }) => (
                <Choose
                  label="Crossings lean"
                  value={value}
                  onChange={onChange}
                  options={[
                    ['left', 'left'],
                    ['right', 'right'],
                  ]}
                />
              )}
            />
            <Controller
              name="spread"
              control={control}
              render={({ field: { value, onChange } }) => (
                <Choose
                  label="Part by"
                  value={value}
                  onChange={onChange}
                  options={[0, 1, 2, 3, 4, 5, 6].map((n) => [n, `${counted(n, 'stitch')} each`])}
                />
              )}
            />
            <Controller
              name="rest"
              control={control}
              render={({ field: { value, onChange } }) => (
                <Choose
                  label="Rest for"
                  value={value}
                  onChange={onChange}
                  options={[0, 1, 2, 3, 4, 5].map((n) => [n, `${2 * n} rows`])}
                />
              )}
            />
          </div>
          <p className="text-[14px] text-slate">
            {height} rows high; it needs a clear purl ground of {ground}{' '}
            {ground === 1 ? 'stitch' : 'stitches'} on each side.
          </p>
          {inTheWay && !error && <p className="text-weld">It cannot be drawn here: {inTheWay}</p>}
          {error && (
            <p role="alert" className="text-madder">
              {error}
            </p>
          )}
        </div>
        <div className="grid max-h-[320px] place-items-center overflow-hidden border border-rule p-2 [&_svg]:max-h-[300px]!">
          <ChartSvg chart={preview} manner={manner} label="The figure as it will be drawn" />
        </div>
      </div>
      <div className="mt-5 flex justify-end gap-2">
        <Button
          onClick={() => act('convert closed ropes', (c) => convertClosedRopes(c, cursor.row, cursor.column))}
          title="Turns the figure at the cursor into the other school's"
        >
          Convert the figure here
        </Button>
        <Button
          tone="main"
          onClick={() =>
            act('draw closed ropes', (c) => ({
              ...drawClosedRopes(c, figure),
              said: `Drawn over ${height} rows; four columns opened for it.`,
            }))
          }
        >
          Draw it here
        </Button>
      </div>
    </SheetDialog>
  );
}
