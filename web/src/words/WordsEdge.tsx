import { correctionsOf, sheetMarkdown, sheetText, type SheetBlock } from '@cordelina/core';
import { Copy, FileDown, Printer } from 'lucide-react';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { Tabs } from 'radix-ui';
import { useState } from 'react';
import { Refused, ServerAway } from '../sync/server.js';
import { onBench } from '../desk/state/editing.js';
import { useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copy.js';
import { useKept } from '../ui/useKept.js';
import { ButtonMenu } from '../ui/Menu.js';
import { SheetEdge } from './SheetEdge.js';
import { StyleEdge } from './StyleEdge.js';
import { useNotes } from '../desk/useNotes.js';
import { saveAsPdf } from './pdf.js';

const TAB =
  'flex-1 border-b-2 border-transparent px-2 pb-1 text-[14px] text-slate hover:text-peat data-[state=active]:border-peat data-[state=active]:text-peat';

/** Beside the sheet: what can be made of it, how its words are written, and what stands where on it. */
export function WordsEdge({ blocks }: { blocks: readonly SheetBlock[] | null }) {
  const [tab, setTab] = useKept('words edge', ['writing', 'sheet'], 'writing');
  const design = useAppSelector(onBench)!.document;
  const [said, setSaid] = useState<{ text: string; isWrong?: boolean } | null>(null);
  const [busy, setBusy] = useState(false);
  const copy = async (text: string, what: string) => {
    setSaid(
      (await copyText(text))
        ? { text: `Copied as ${what}. Charts are drawings: the copy says where they stand.` }
        : {
            text: 'This browser does not let the page copy. Select the words on the sheet instead.',
            isWrong: true,
          },
    );
  };
  const notes = useNotes(design.id);
  const pdf = async () => {
    setBusy(true);
    setSaid({ text: 'The server sets the pages …' });
    try {
      const { pages, missing } = await saveAsPdf(design, correctionsOf(notes));
      const lacks = missing
        ? ` Its fonts have no ${[...missing].join(' ')}: print from the browser for these.`
        : '';
      setSaid({
        text: `Saved: ${pages} ${pages === 1 ? 'page' : 'pages'}.${lacks}`,
        isWrong: Boolean(missing),
      });
    } catch (error) {
      if (!(error instanceof Refused || error instanceof ServerAway)) throw error;
      const away = error instanceof ServerAway;
      setSaid({
        text: away ? 'The server is away, and it makes the PDF. Print works without it.' : error.message,
        isWrong: true,
      });
    } finally {
      setBusy(false);
    }
  };
  const asText = () => void (blocks && copy(sheetText(blocks), 'plain text'));
  const asMarkdown = () => void (blocks && copy(sheetMarkdown(blocks), 'Markdown'));
  useOffer('Words', [
    command('print', 'Print the sheet', 'Words', () => globalThis.print(), 'Ctrl P'),
    ...(busy ? [] : [command('pdf', 'Save the sheet as a PDF', 'Words', () => void pdf())]),
    ...(blocks
      ? [
          command('copy-text', 'Copy the sheet as plain text', 'Words', asText),
          command('copy-markdown', 'Copy the sheet as Markdown', 'Words', asMarkdown),
        ]
      : []),
  ]);
  return (
    <aside
      aria-label="How it is written and printed"
      className="no-print flex h-full w-[256px] max-w-full shrink-0 flex-col gap-3 overflow-auto border-l border-rule px-4 py-4 max-[900px]:border-0 max-[900px]:pt-14"
    >
      <div className="grid grid-cols-2 gap-2">
        <Button tone="main" onClick={() => globalThis.print()}>
          <Printer size={16} aria-hidden /> Print
        </Button>
        <Button onClick={() => void pdf()} disabled={busy}>
          <FileDown size={16} aria-hidden /> PDF
        </Button>
        <ButtonMenu
          label="Copy the sheet"
          lines={[
            [
              { label: 'As plain text', run: asText },
              { label: 'As Markdown', run: asMarkdown },
            ],
          ]}
        >
          <Button className="col-span-2" disabled={!blocks}>
            <Copy size={15} aria-hidden /> Copy the sheet …
          </Button>
        </ButtonMenu>
      </div>
      <p role="status" className={`text-[13px] empty:hidden ${said?.isWrong ? 'text-madder' : 'text-slate'}`}>
        {said?.text}
      </p>
      <Tabs.Root value={tab} onValueChange={(to) => setTab(to as typeof tab)}>
        <Tabs.List className="mb-3.5 flex border-b border-rule" aria-label="Settings of the sheet">
          <Tabs.Trigger value="writing" className={TAB}>
            Writing
          </Tabs.Trigger>
          <Tabs.Trigger value="sheet" className={TAB}>
            Sheet
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="writing">
          <StyleEdge design={design} />
        </Tabs.Content>
        <Tabs.Content value="sheet">
          <SheetEdge design={design} />
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
