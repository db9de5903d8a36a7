import { chartName, type Chart, type Design } from '@cordelina/core';
import { ChevronDown } from 'lucide-react';
import { Toolbar as Bar } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import {
  addChart,
  deleteChart,
  duplicateChart,
  renameChart,
  shiftChart,
  turnTo,
} from '../desk/state/charts.js';
import { useAppDispatch } from '../desk/state/index.js';
import { ButtonMenu, type MenuLine } from '../ui/Menu.js';
import { NameDialog } from '../ui/NameDialog.js';

/** The charts of a design: which one lies on the bench, and what can be done with it. */
export function ChartMenu({
  design,
  chart,
  out,
}: {
  design: Design;
  chart: Chart;
  /** What takes the chart out of the program. */
  out: readonly MenuLine[];
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [naming, setNaming] = useState(false);
  const { charts } = design;
  const at = charts.findIndex((c) => c.id === chart.id);
  return (
    <>
      <ButtonMenu
        label="Charts"
        lines={[
          charts.map((c) => ({
            label: chartName(design, c),
            checked: c.id === chart.id,
            run: () => dispatch(turnTo(c.id)),
          })),
          [
            { label: 'New chart', run: () => dispatch(addChart()) },
            { label: 'From words …', run: () => void navigate(`/import?design=${design.id}`) },
            { label: 'Duplicate', run: () => dispatch(duplicateChart()) },
            { label: 'Name …', run: () => setNaming(true) },
          ],
          out,
          [
            { label: 'Move up in the order', disabled: at === 0, run: () => dispatch(shiftChart(-1)) },
            {
              label: 'Move down in the order',
              disabled: at === charts.length - 1,
              run: () => dispatch(shiftChart(1)),
            },
            { label: 'Delete', disabled: charts.length === 1, run: () => dispatch(deleteChart()) },
          ],
        ]}
      >
        <Bar.Button
          title="The charts of this design"
          className="flex h-8 max-w-[150px] items-center gap-1 rounded-sm px-2 text-[13px] font-semibold hover:bg-wash"
        >
          <span className="truncate">{chartName(design, chart)}</span>
          {charts.length > 1 && (
            <span className="font-normal whitespace-nowrap text-slate">
              {at + 1} of {charts.length}
            </span>
          )}
          <ChevronDown size={14} className="shrink-0" aria-hidden />
        </Bar.Button>
      </ButtonMenu>
      {naming && (
        <NameDialog
          title="Name the chart"
          action="Name"
          label="Name"
          hint="Left empty, it is called by the letter of its place."
          initial={chart.name}
          most={80}
          onClose={() => setNaming(false)}
          onName={(name) => dispatch(renameChart(name))}
        />
      )}
    </>
  );
}
