import {
  acrossName,
  layOut,
  lengthText,
  markersOf,
  type Piece,
  movePart,
  type Finding,
} from '@cordelina/core';
import { Tabs } from 'radix-ui';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useProofState } from '../desk/head/ProofContext.js';
import { editHead, make, onBench } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { Button } from '../ui/Button.js';
import { Drawer } from '../ui/Drawer.js';
import { SizeChoice } from '../ui/SizeChoice.js';
import { UnitSwitch } from '../ui/UnitSwitch.js';
import { useKept } from '../ui/useKept.js';
import { useKeptScroll } from '../ui/useKeptScroll.js';
import { useNarrow } from '../ui/useNarrow.js';
import { AddPart } from './AddPart.js';
import { PartEdge } from './PartEdge.js';
import { PieceEdge } from './PieceEdge.js';
import { PieceStrip } from './PieceStrip.js';
import { SizesPane } from './SizesPane.js';
import { Timeline } from './Timeline.js';
import { useBegin, usePieceActs } from './usePiece.js';
import { useSurvey } from './useSurvey.js';

const TAB =
  'border-b-2 border-transparent px-1 pb-1 text-[14px] text-slate hover:text-peat data-[state=active]:border-peat data-[state=active]:text-peat';

/** The piece: its parts along a ruler, what follows from them, its sizes, and how its panels go up. */
export function SettingOutRoom() {
  const { piece } = useAppSelector(onBench)!.document;
  const begin = useBegin();
  if (piece) return <SetOut piece={piece} />;
  return (
    <main
      tabIndex={-1}
      className="grid flex-1 place-content-center justify-items-start gap-3 px-6 outline-none"
    >
      <h1 className="text-[24px] font-semibold">Set the charts out in a piece</h1>
      <p className="max-w-[520px]">
        Edges, grounds and panels side by side along a ruler: how many stitches to cast on, in every size, how
        wide it lies, and where the panels meet again going up.
      </p>
      <Button tone="main" onClick={begin}>
        Begin with the charts of this design
      </Button>
    </main>
  );
}

function SetOut({ piece }: { piece: Piece }) {
  const dispatch = useAppDispatch();
  const design = useAppSelector(onBench)!.document;
  const message = useAppSelector((s) => s.bench.message);
  const { settings } = design;
  const narrow = useNarrow();
  const acts = usePieceActs();
  const { proved } = useProofState();
  const [params, setParams] = useSearchParams();
  const [chosen, setChosen] = useState<string | null>(null);
  const [edge, setEdge] = useKept('setting-out edge', ['part', 'piece'], 'piece');
  const [follows, setFollows] = useKept('setting-out follows', ['sizes', 'up'], 'sizes');
  const scroller = useKeptScroll(`setting-out ${design.id}`);
  const [isOpen, setOpen] = useState(false);
  const size = piece.sizes.find((s) => s.id === params.get('size')) ?? piece.sizes[0]!;
  const laid = useMemo(() => layOut(design, piece, size), [design, piece, size]);
  const { survey, isCurrent } = useSurvey(design, size.id);
  const choose = (id: string | null) => {
    setChosen(id);
    setEdge(id ? 'part' : 'piece');
    if (id) setOpen(true);
  };
  const made = survey?.made ?? null;
  // Numbers of the piece as it was are not shown for those of the piece as it is.
  const words = proved?.piece ?? null;
  const { of, plus } = laid.multiple;
  const marks = markersOf(laid, piece);
  const part = piece.parts.find((p) => p.id === chosen);
  const side = (
    <Tabs.Root
      value={edge}
      onValueChange={(to) => setEdge(to as typeof edge)}
      className="flex h-full min-h-0 flex-col"
    >
      <Tabs.List className="flex gap-4 border-b border-rule px-4 pt-2" aria-label="What is set">
        <Tabs.Trigger value="part" className={TAB}>
          Part
        </Tabs.Trigger>
        <Tabs.Trigger value="piece" className={TAB}>
          Piece
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="part" className="min-h-0 flex-1 overflow-auto px-4 py-3">
        {part ? (
          <PartEdge
            key={part.id}
            design={design}
            piece={piece}
            size={size}
            laid={laid}
            id={part.id}
            acts={acts}
            onChoose={choose}
          />
        ) : (
          <p className="text-slate">Choose a part along the ruler.</p>
        )}
      </Tabs.Content>
      <Tabs.Content value="piece" className="min-h-0 flex-1 overflow-auto px-4 py-3">
        <PieceEdge design={design} piece={piece} size={size} acts={acts} words={words} />
      </Tabs.Content>
    </Tabs.Root>
  );
  return (
    <div className="relative flex min-h-0 flex-1">
      <main
        ref={scroller}
        tabIndex={-1}
        className="min-w-0 flex-1 overflow-auto px-5 py-3 outline-none max-md:px-3"
      >
        <h1 className="sr-only">Setting out</h1>
        <div className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
          <AddPart design={design} piece={piece} after={chosen} acts={acts} onAdded={choose} />
          <SizeChoice
            sizes={piece.sizes}
            value={size.id}
            onChange={(id) => setParams({ size: id }, { replace: true })}
          />
          <UnitSwitch
            unit={settings.units}
            onChange={(units) => dispatch(editHead('units', { settings: { ...settings, units } }))}
          />
          <span
            role="status"
            className={`truncate text-[13px] ${message?.tone === 'refused' ? 'text-madder' : 'text-slate'}`}
          >
            {message?.text}
          </span>
          <span className="ml-auto flex">
            {narrow && <Button onClick={() => setOpen(true)}>Part and piece</Button>}
          </span>
        </div>
        {piece.parts.length ? (
          <PieceStrip
            laid={laid}
            survey={survey}
            settings={settings}
            chosen={chosen}
            onChoose={choose}
            onMove={(id, by) => acts.edit('parts moved', (p) => movePart(p, id, by))}
          />
        ) : (
          <p className="border border-rule bg-chalk px-4 py-10 text-center text-slate">
            Nothing is in the piece yet: add an edge, a ground or a panel.
          </p>
        )}
        <p
          className={`mt-2 border-y border-rule py-1.5 text-[15px] ${isCurrent ? '' : 'text-slate'}`}
          data-testid="totals"
        >
          <strong className="font-serif text-[19px]">
            {made ? `Cast on ${made.castOn}` : `${laid.stitches} stitches`}
          </strong>
          {made && made.increases > 0 && `, then ${laid.stitches} sts`}
          {laid.width !== null && (
            <>
              {' · '}
              {lengthText(laid.width, settings.units)} {acrossName(piece) === 'Width' ? 'wide' : 'round'}
              {laid.isEstimate
                ? `, ± ${lengthText(laid.give, settings.units)}: parts without a swatch as their cloth is worked out to lie`
                : piece.gauge.whole
                  ? ', by a swatch of the whole'
                  : ', the sum of its parts'}
            </>
          )}
          {made && made.length !== null && ` · ${lengthText(made.length, settings.units)} long`}
          {of > 0 && ` · a multiple of ${of} sts${plus ? ` plus ${plus}` : ''}`}
          {marks.length > 0 && (
            <span className="block text-[13.5px] text-slate">
              Markers after stitch {marks.join(', ')}, from the right.
            </span>
          )}
        </p>
        {survey && <Findings findings={survey.findings} onPart={choose} />}
        <Tabs.Root value={follows} onValueChange={(to) => setFollows(to as typeof follows)} className="mt-2">
          <Tabs.List className="mb-2 flex gap-4 border-b border-rule" aria-label="What follows">
            <Tabs.Trigger value="sizes" className={TAB}>
              Sizes and fit
            </Tabs.Trigger>
            <Tabs.Trigger value="up" className={TAB}>
              Going up
            </Tabs.Trigger>
          </Tabs.List>
          <Tabs.Content value="sizes">
            <SizesPane
              design={design}
              piece={piece}
              size={size}
              acts={acts}
              words={words}
              isProving={proved === null}
              onSize={(id) => setParams({ size: id }, { replace: true })}
            />
          </Tabs.Content>
          <Tabs.Content value="up">
            {survey && <Timeline laid={laid} survey={survey} units={settings.units} />}
          </Tabs.Content>
        </Tabs.Root>
      </main>
      {narrow ? (
        isOpen && (
          <Drawer name="Part and piece" side="right" onClose={() => setOpen(false)}>
            <div className="h-full w-[320px] max-w-full pt-10">{side}</div>
          </Drawer>
        )
      ) : (
        <aside aria-label="Part and piece" className="w-[316px] shrink-0 border-l border-rule">
          {side}
        </aside>
      )}
    </div>
  );
}

const LEVELS = {
  error: { word: 'Must be mended', tone: 'text-madder' },
  caution: { word: 'Look again', tone: 'text-weld' },
  note: { word: 'Note', tone: 'text-slate' },
} as const;

function Findings({ findings, onPart }: { findings: readonly Finding[]; onPart: (id: string) => void }) {
  const dispatch = useAppDispatch();
  if (!findings.length) return null;
  return (
    <ul aria-label="Findings" className="mt-1.5 grid gap-1">
      {findings.map((f, i) => (
        <li key={i} className="flex flex-wrap items-baseline gap-x-2 text-[14px]">
          <span className={`font-semibold ${LEVELS[f.level].tone}`}>{LEVELS[f.level].word}</span>
          <span>{f.message}</span>
          {f.part !== undefined && (
            <button type="button" className="underline" onClick={() => onPart(f.part!)}>
              Show the part
            </button>
          )}
          {[f.fix, ...(f.others ?? [])]
            .flatMap((fix) => fix ?? [])
            .map(({ label, steps }) => (
              <Button
                key={label}
                className="h-7"
                onClick={() => dispatch(make({ id: newId(), label, steps }))}
              >
                {label}
              </Button>
            ))}
        </li>
      ))}
    </ul>
  );
}
