import {
  allOneWay,
  applyToChart,
  chartName,
  listText,
  readList,
  type Chart,
  type Fix,
  type Method,
  type OperatorsList,
  type Stitch,
} from '@cordelina/core';
import { Tabs } from 'radix-ui';
import { useMemo, useState } from 'react';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { bench, chartIn } from '../desk/state/bench.js';
import { addFlatCopy } from '../desk/state/charts.js';
import { editOwn, onBench } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Choose } from '../ui/Field.js';
import { NumberField } from '../ui/NumberField.js';
import { machineLink } from '../workers/links.js';
import type { Listed } from '../workers/machine.worker.js';
import { useAnswer } from '../workers/useAnswer.js';
import { BedsPicture } from './BedsPicture.js';
import { ByHand } from './ByHand.js';
import { OperatorsSheet } from './OperatorsSheet.js';
import { Refused } from './Refused.js';
import { Cloth, Controls, Told } from './Running.js';
import { useOperator } from './useOperator.js';

const TAB =
  'border-b-2 border-transparent px-1 pb-1 text-[14px] text-slate hover:text-peat data-[state=active]:border-peat data-[state=active]:text-peat';

const link = machineLink();

/** So long the hands rest before the list is made anew, in milliseconds. */
const QUIET = 60;

interface Question {
  chart: Chart;
  method: Method;
}

/** What the worker says of a chart; what it cannot work is said, and not asked again. */
const ask = async ({ chart, method }: Question): Promise<Listed | { fault: string }> =>
  link.next(async (worker) => {
    try {
      return await worker.list(chart, method);
    } catch (error) {
      if (error instanceof Error && / cells: | cut at its repeat/.test(error.message))
        return { fault: error.message };
      throw error;
    }
  });

const NO_LIST: Pick<OperatorsList, 'setup' | 'actions' | 'rows'> = {
  setup: { back: [], front: [] },
  actions: [],
  rows: 0,
};
const NOTHING: readonly Stitch[][] = [];

/** A chart on two beds: the operator's list, and the simulated beds that run it, or a list that is typed. */
export function MachineRoom() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const onTheBench = useAppSelector((s) => s.bench.chart);
  const chart = chartIn(design, onTheBench);
  const [method, setMethod] = useState<Method['method']>('basic');
  const [every, setEvery] = useState(2);
  const [lean, setLean] = useState<NonNullable<Method['lean']> | 'charted'>('charted');
  const [tab, setTab] = useState<'list' | 'hand'>('list');
  const [typed, setTyped] = useState<string | null>(null);
  const question = useMemo<Question>(
    () => ({ chart, method: { method, every, ...(lean !== 'charted' && { lean }) } }),
    [chart, method, every, lean],
  );
  const { answer, last, hasFailed } = useAnswer(question, ask, QUIET);
  const said = answer ?? last?.answer ?? null;
  const listed = said && !('fault' in said) ? said : null;
  const fault =
    said && 'fault' in said ? said.fault : hasFailed ? 'The list could not be made. Try again.' : null;
  const list = listed && !listed.list.problems.length ? listed.list : null;

  const isByHand = tab === 'hand';
  const text = typed ?? (list ? listText(list) : '');
  const hand = useMemo(() => (isByHand ? readList(text) : null), [isByHand, text]);
  const worked = isByHand ? (hand && !hand.problems.length ? hand : NO_LIST) : (list ?? NO_LIST);
  const at = useOperator(worked, listed?.wanted ?? NOTHING);

  useOffer(
    'Machine',
    useMemo(
      () => [
        command('machine-step', 'Do the next thing on the beds', 'Machine', at.step),
        command(
          'machine-run',
          at.isRunning ? 'Stop the beds' : 'Run the beds',
          'Machine',
          at.isRunning ? at.stop : at.run,
        ),
        command('machine-print', 'Print the operator’s list', 'Machine', () => window.print()),
      ],
      // They change with each step.
      // eslint-disable-next-line react-hooks/exhaustive-deps
      [at.isRunning, at.operator, at.last],
    ),
  );
  const mend = (fix: Fix) =>
    dispatch(
      editOwn(fix.label.toLowerCase(), (c) => ({ chart: applyToChart(c, fix.steps), steps: fix.steps })),
    );

  return (
    <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-auto print:block">
      <main
        tabIndex={-1}
        className="no-print outline-none flex min-w-0 flex-1 flex-col px-5 py-3 max-md:flex-none max-md:px-3"
      >
        <h1 className="sr-only">Machine</h1>
        <Controls at={at} rows={worked.rows} />
        {fault ? (
          <p className="mt-4 text-madder" role="status">
            {fault}
          </p>
        ) : !isByHand && listed && !list ? (
          <Refused
            listed={listed}
            onMend={mend}
            onCopy={() => dispatch(addFlatCopy())}
            onGo={(row) => {
              if (chart.id !== onTheBench) dispatch(bench.turnedTo({ chart }));
              dispatch(bench.wentTo(row - 1));
            }}
          />
        ) : worked.rows && (worked.setup.back.length || worked.setup.front.length) ? (
          <>
            <div className="mt-3 shrink-0 border border-rule bg-chalk">
              <BedsPicture operator={at.operator} next={at.operator.next} last={at.last} />
            </div>
            <Told at={at} isByHand={isByHand} isChecked={!isByHand && (list?.checked ?? false)} />
            <Cloth at={at} settings={design.settings} />
          </>
        ) : (
          <p className="mt-4 text-slate" role="status">
            {isByHand ? 'Type a list, and it is run on the simulated beds.' : 'Making the list …'}
          </p>
        )}
      </main>
      <Tabs.Root
        value={tab}
        onValueChange={(to) => setTab(to as typeof tab)}
        className="flex w-[430px] shrink-0 flex-col border-l border-rule max-md:w-auto max-md:border-t max-md:border-l-0 print:w-auto print:border-0"
      >
        <div className="no-print grid gap-2 border-b border-rule px-4 pt-3">
          <div className="grid grid-cols-2 gap-3">
            <Choose
              label="Chart"
              value={chart.id}
              onChange={(id) => dispatch(bench.turnedTo({ chart: chartIn(design, id) }))}
              options={design.charts.map((c) => [c.id, chartName(design, c)] as const)}
            />
            <Choose
              label="Ropes"
              value={method}
              onChange={setMethod}
              options={[
                ['basic', 'among the ground'],
                ['embossed', 'before a whole ground'],
              ]}
            />
            <Choose
              label="Cables lie"
              value={lean}
              onChange={setLean}
              options={[
                ['charted', 'as charted'],
                ['left', 'all to the left'],
                ['right', 'all to the right'],
              ]}
            />
            <div className="self-end pb-0.5">
              <NumberField label="Act every" of="row" value={every} most={6} onChange={setEvery} />
            </div>
          </div>
          {listed?.bothWays && lean === 'charted' && (
            <p className="text-[13px] text-slate">
              Cables of this chart lie both ways. Which goes over matters less than doing the same throughout.{' '}
              <button
                type="button"
                className="underline hover:text-peat"
                onClick={() => dispatch(editOwn('all cables one way', (c) => allOneWay(c, 'left')))}
              >
                Turn them all to the left
              </button>
            </p>
          )}
          <Tabs.List className="flex gap-4 pt-1" aria-label="Which list is run">
            <Tabs.Trigger value="list" className={TAB}>
              The chart’s list
            </Tabs.Trigger>
            <Tabs.Trigger value="hand" className={TAB}>
              A list by hand
            </Tabs.Trigger>
          </Tabs.List>
        </div>
        <Tabs.Content value="list" className="flex min-h-0 flex-1 flex-col print:block">
          {list && listed && (
            <OperatorsSheet
              key={chart.id}
              title={`${design.title}, ${chartName(design, chart)}`}
              listed={listed}
              counter={at.operator.counter}
              method={method}
            />
          )}
        </Tabs.Content>
        <Tabs.Content value="hand" className="no-print flex min-h-0 flex-1 flex-col gap-2 p-4">
          <ByHand
            text={text}
            read={hand}
            onType={setTyped}
            onReset={() => setTyped(null)}
            isOwn={typed !== null}
          />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  );
}
