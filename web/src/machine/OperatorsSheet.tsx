import { csvOf, LIST_COLUMNS, listCsvRows, listText, toldActions, type Method } from '@cordelina/core';
import { Copy, FileSpreadsheet, Printer } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.js';
import { saveFile } from '../ui/save-file.js';
import type { Listed } from '../workers/machine.worker.js';
import { TransferNote } from './TransferNote.js';
import { ListTable } from './ListTable.js';
import { copyText } from '../ui/copy.js';

/** The list as the operator has it: on the screen, on paper, as figures for a table. */
export function OperatorsSheet({
  title,
  listed: { list, told, pictures },
  counter,
  method,
}: {
  title: string;
  listed: Listed;
  counter: number;
  method: Method['method'];
}) {
  const [ticked, setTicked] = useState<ReadonlySet<number>>(new Set());
  const tick = (place: number) => {
    const now = new Set(ticked);
    if (!now.delete(place)) now.add(place);
    setTicked(now);
  };
  const actions = toldActions(told);
  // The one that stands next, where the beds have come to it; else the first.
  const next = actions.findIndex((a, i) => a.counter >= counter && pictures[i]);
  const first = next >= 0 ? next : pictures.findIndex((p) => p !== null);
  const csv = () => {
    const rows = [
      ['', 'set-up', list.setup.back.join(' '), '', '', '', '', ''],
      ...listCsvRows(list.actions),
    ];
    const cells = [[...LIST_COLUMNS], ...rows].map((row) => row.map(String));
    saveFile(new Blob([csvOf([{ name: title, cells }])], { type: 'text/csv' }), title, 'csv');
  };
  return (
    <>
      <div className="no-print flex gap-1.5 border-b border-rule px-4 py-2">
        <Button onClick={() => window.print()}>
          <Printer size={15} aria-hidden /> Print
        </Button>
        <Button onClick={csv} title="The list as a table of figures">
          <FileSpreadsheet size={15} aria-hidden /> CSV
        </Button>
        <Button onClick={() => void copyText(listText(list))} title="The list as it is typed">
          <Copy size={15} aria-hidden /> Copy
        </Button>
      </div>
      <div className="min-h-0 flex-1 overflow-auto print:overflow-visible" data-testid="operators-list">
        <div className="px-3 py-2 text-[14px] leading-snug">
          <p className="hidden font-serif text-[24px] font-semibold print:block">{title}</p>
          <p>
            <span className="font-semibold">Set-up.</span> Ropes on the back bed: {list.setup.back.join(' ')}.
            Ground on the front bed{method === 'embossed' ? ', on every needle' : ''}:{' '}
            {span(list.setup.front)}. Two plain rows, then the counter to 0.
          </p>
        </div>
        {first >= 0 && <TransferNote action={actions[first]!} pictured={pictures[first]!} />}
        <ListTable
          told={told}
          pictures={pictures}
          counter={counter}
          rows={list.rows}
          ticked={ticked}
          onTick={tick}
        />
      </div>
    </>
  );
}

const span = (needles: readonly string[]): string =>
  needles.length > 6 ? `${needles[0]!} to ${needles.at(-1)!}, ${needles.length} needles` : needles.join(' ');
