import {
  wayOf,
  endOf,
  hasJogs,
  passesOf,
  bothCount,
  repeatColumns,
  repeatRows,
  repeatsAcross,
  timesOf,
  type Chart,
  type Design,
} from '@cordelina/core';
import {
  Cable,
  Columns3,
  CornerUpRight,
  Layers2,
  LibraryBig,
  MousePointer2,
  Pencil,
  Shirt,
  Spline,
  SquareDot,
  SquareMinus,
  SquareSplitHorizontal,
  ZoomIn,
  ZoomOut,
} from 'lucide-react';
import { Toolbar as Bar } from 'radix-ui';
import type { ReactNode } from 'react';
import { followsIn } from '../desk/state/habits.js';
import { useAppSelector } from '../desk/state/index.js';
import { IconButton } from '../ui/Button.js';
import { ButtonMenu } from '../ui/Menu.js';
import type { ChartActs } from './acts/index.js';
import { ChartMenu } from './ChartMenu.js';
import { useClothShown } from './ClothPanel.js';
import type { Commands } from './commands.js';

/** What repeats, in a few words. */
export function repeatSummary(chart: Chart): string {
  const parts: string[] = [wayOf(chart).worked];
  if (repeatsAcross(chart)) {
    const { start, end } = repeatColumns(chart);
    const edges = chart.width - (end - start);
    parts.push(`${end - start}${edges ? ` + ${edges}` : ''} columns, repeat × ${timesOf(chart)}`);
  }
  const rows = repeatRows(chart);
  if (rows) {
    const ended = endOf(chart) ? `, to ${rows.first + endOf(chart)}` : '';
    parts.push(`rows ${rows.first + 1}–${rows.last + 1} × ${passesOf(chart)}${ended}`);
  }
  if (hasJogs(chart)) parts.push(`${wayOf(chart).row}s shifted`);
  if (parts.length === 1) parts.push('set a repeat …');
  return parts.join(' · ');
}

const ICONS: Partial<Record<keyof Commands, ReactNode>> = {
  point: <MousePointer2 size={17} />,
  roping: <Spline size={17} />,
  follows: <CornerUpRight size={17} className="-rotate-90" />,
  whole: <Columns3 size={17} />,
  tellApart: <Cable size={17} />,
  cloth: <Shirt size={17} />,
  turnOver: <Layers2 size={17} />,
  motifs: <LibraryBig size={17} />,
  smaller: <ZoomOut size={17} />,
  larger: <ZoomIn size={17} />,
};

/** What stands beside the icons where there is room for it. */
const SHORT: Partial<Record<keyof Commands, string>> = {
  point: 'Select',
  motifs: 'Motifs',
  roping: 'Draw a rope',
  follows: 'Carry up',
  whole: 'Whole width',
  tellApart: 'Ropes',
  cloth: 'Cloth',
  turnOver: 'Turn over',
};

const edge = 'h-8 rounded-sm px-2 text-[13px] whitespace-nowrap hover:bg-wash';

/** The commands at hand, in one stop of the Tab key: arrows go along it. */
export function Toolbar({
  design,
  chart,
  acts,
  commands,
  pointing,
}: {
  design: Design;
  chart: Chart;
  acts: ChartActs;
  commands: Commands;
  pointing: boolean;
}) {
  const cloth = useClothShown();
  const { skips, whole, apart } = useAppSelector((s) => s.habits);
  const follows = useAppSelector((s) => followsIn(s.habits, s.bench.id));
  const isBehind = useAppSelector((s) => s.bench.isBehind);
  const roping = useAppSelector((s) => s.bench.roping);
  const { plain } = design.settings;
  const icon = (id: keyof Commands, more: { disabled?: boolean; pressed?: boolean } = {}) => {
    const { label, keys, run } = commands[id];
    return (
      <Bar.Button asChild>
        <IconButton name={label} keys={keys[0]} onClick={run} label={SHORT[id]} {...more}>
          {ICONS[id]}
        </IconButton>
      </Bar.Button>
    );
  };
  const line = (id: keyof Commands, more: { checked?: boolean; disabled?: boolean } = {}) => {
    const { label, keys, run } = commands[id];
    return { label, keys: keys[0], run, ...more };
  };
  return (
    <Bar.Root
      aria-label="Chart"
      className="flex h-10 shrink-0 items-center gap-0.5 overflow-x-auto overflow-y-hidden border-b border-rule px-2 [scrollbar-width:none] touch:h-12"
    >
      <ChartMenu
        design={design}
        chart={chart}
        out={[line('print'), line('copyPicture'), line('drawing'), line('picture')]}
      />
      <Divider />
      <span className="flex max-md:hidden">{icon('point', { pressed: pointing && !roping })}</span>
      <span className="flex max-md:hidden">{icon('motifs')}</span>
      {icon('roping', { pressed: roping })}
      {icon('follows', { pressed: follows })}
      {!follows && <span className="px-1 text-[13px] whitespace-nowrap text-slate">faces stay</span>}
      <SymmetryMenu chart={chart} acts={acts} />
      <ButtonMenu
        label="Change the chart"
        lines={[
          [line('copy'), line('cut'), line('paste')],
          [line('insertRow'), line('deleteRow'), line('insertColumn'), line('deleteColumn')],
          [line('mirror'), line('flip'), line('turn'), line('slip'), line('rib')],
          [line('again'), line('againMirrored')],
          [line('repeat'), line('repeatUp'), line('later'), line('earlier'), line('straighten')],
          [line('motifs'), line('keepMotif'), line('ropes')],
          [line('trace')],
          [line('setup')],
          [
            line('follows', { checked: follows }),
            line('skips', { checked: skips }),
            line('tellApart', { checked: apart }),
          ],
        ]}
      >
        <Bar.Button className={`${edge} flex items-center gap-1.5`} title="Rows, columns, repeats and more">
          <Pencil size={15} aria-hidden /> <span className="max-md:sr-only">Change</span>
        </Bar.Button>
      </ButtonMenu>
      <Divider />
      <Bar.Button
        className={`${edge} min-w-0 truncate border border-slate/40 bg-chalk hover:border-peat`}
        onClick={commands.setup.run}
        title={commands.setup.label}
      >
        {repeatSummary(chart)}
      </Bar.Button>
      {icon('whole', { pressed: whole })}
      <span className="flex max-md:hidden">{icon('tellApart', { pressed: apart })}</span>
      {bothCount(chart) && icon('turnOver', { pressed: isBehind })}
      <span className="flex max-md:hidden">{icon('cloth', { pressed: cloth })}</span>
      <span className="ml-auto" />
      <span className="flex max-md:hidden">
        <Bar.Button asChild>
          <IconButton
            name={
              plain === 'empty'
                ? 'Knit empty, purl a dot: change to bars'
                : 'Knit and purl as bars: change to empty and dot'
            }
            onClick={commands.plain.run}
          >
            {plain === 'empty' ? <SquareDot size={17} /> : <SquareMinus size={17} />}
          </IconButton>
        </Bar.Button>
      </span>
      <span className="flex max-md:hidden">
        {icon('smaller')}
        {icon('larger')}
      </span>
    </Bar.Root>
  );
}

/** Where what is set on one side is set on the other too. */
function SymmetryMenu({ chart, acts }: { chart: Chart; acts: ChartActs }) {
  const { mirror, width, rows } = chart;
  const column = useAppSelector((s) => s.bench.cursor.column);
  const [axis, turn] = [mirror?.axis, mirror?.turn];
  const isMirror = (at: number) => axis === at && turn === undefined;
  const isTurn = (at: number) => axis === at && turn === rows.length;
  return (
    <ButtonMenu
      label="Symmetry"
      lines={[
        [{ label: 'Set one side only', checked: !mirror, run: () => acts.symmetry(null) }],
        [
          {
            label: 'Mirror about the middle of the chart',
            keys: 'A',
            checked: isMirror(width),
            run: () => acts.symmetry({ axis: width }),
          },
          {
            label: `Mirror about column ${column + 1}`,
            checked: isMirror(2 * column + 1),
            run: () => acts.symmetry({ axis: 2 * column + 1 }),
          },
          {
            label: `Mirror between columns ${column + 1} and ${column + 2}`,
            checked: isMirror(2 * column + 2),
            disabled: column + 1 >= width,
            run: () => acts.symmetry({ axis: 2 * column + 2 }),
          },
        ],
        [
          {
            label: 'Half turn about the middle of the chart',
            checked: isTurn(width),
            run: () => acts.symmetry({ axis: width, turn: rows.length }),
          },
        ],
      ]}
    >
      <Bar.Button asChild>
        <IconButton name="Mirror as you go" keys="A" pressed={mirror !== null}>
          <SquareSplitHorizontal size={17} />
        </IconButton>
      </Bar.Button>
    </ButtonMenu>
  );
}

const Divider = () => <Bar.Separator className="mx-1 h-5 w-px shrink-0 bg-rule" />;
