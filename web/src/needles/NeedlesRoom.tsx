import { Tabs } from 'radix-ui';
import { useKeptScroll } from '../ui/useKeptScroll.js';
import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { onBench } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { meet } from '../desk/state/listed.js';
import { CastOnPane } from './CastOnPane.js';
import { NotesPane } from './NotesPane.js';
import { PracticePane } from './PracticePane.js';
import { ReadingPane } from './ReadingPane.js';

const TABS = [
  ['knitting', 'On the needles'],
  ['notes', 'Notes'],
  ['practice', 'Practice'],
  ['reading', 'Read the chart'],
] as const;

/** What is knitted of a design: who knits it, what they notice, and where one learns it. */
export function NeedlesRoom() {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const [params, setParams] = useSearchParams();
  const asked = params.get('tab');
  const scroller = useKeptScroll(`needles ${design.id} ${asked}`);
  const tab = TABS.find(([name]) => name === asked)?.[0] ?? 'knitting';
  useEffect(() => {
    void dispatch(meet('knitting'));
    void dispatch(meet('note'));
  }, [dispatch]);
  return (
    <Tabs.Root
      value={tab}
      onValueChange={(to) => setParams(to === 'knitting' ? {} : { tab: to }, { replace: true })}
      className="flex min-h-0 flex-1 flex-col"
    >
      <h1 className="sr-only">At the needles</h1>
      <Tabs.List
        aria-label="At the needles"
        className="no-print flex shrink-0 gap-5 overflow-x-auto border-b border-rule px-5 pt-3 max-md:gap-3 max-md:px-3"
      >
        {TABS.map(([name, title]) => (
          <Tabs.Trigger
            key={name}
            value={name}
            className="border-b-2 border-transparent px-1 pb-1.5 text-[15px] whitespace-nowrap text-slate hover:text-peat data-[state=active]:border-peat data-[state=active]:text-peat max-md:min-h-11"
          >
            {title}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <main
        ref={scroller}
        tabIndex={-1}
        className="outline-none min-h-0 flex-1 overflow-auto px-5 py-4 max-md:px-3"
      >
        <Tabs.Content value="knitting">
          <CastOnPane design={design} />
        </Tabs.Content>
        <Tabs.Content value="notes">
          <NotesPane design={design} />
        </Tabs.Content>
        <Tabs.Content value="practice">
          <PracticePane design={design} />
        </Tabs.Content>
        <Tabs.Content value="reading">
          <ReadingPane design={design} />
        </Tabs.Content>
      </main>
    </Tabs.Root>
  );
}
