import {
  chartName,
  panelOfAnother,
  PIECE_LIMITS,
  putPart,
  repeatsAcross,
  startPart,
  type NewPart,
  type Chart,
  type Design,
  type Piece,
  wayOf,
} from '@cordelina/core';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { fetchDesign, Refused, ServerAway } from '../sync/server.js';
import { editDesign } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { Choose } from '../ui/Field.js';
import { ButtonMenu, type MenuLines } from '../ui/Menu.js';
import { SheetDialog } from '../ui/Sheet.js';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { loadCards } from '../desk/designs.js';
import { shortId, type PieceActs } from './usePiece.js';

/** Puts a part into the piece, to the left of the one in hand, or as the last. */
export function AddPart({
  design,
  piece,
  after,
  acts,
  onAdded,
}: {
  design: Design;
  piece: Piece;
  after: string | null;
  acts: PieceActs;
  onAdded: (id: string) => void;
}) {
  const dispatch = useAppDispatch();
  const [copying, setCopying] = useState(false);
  const put = (part: NewPart) => {
    const made = startPart(shortId(), part);
    acts.edit('part', (p) => putPart(p, made, after));
    onAdded(made.id);
  };
  const lines: MenuLines = [
    [
      { label: 'Ground', run: () => put({ kind: 'ground', stitches: 4 }) },
      ...(wayOf(piece).hasEdges
        ? [{ label: 'Edge', run: () => put({ kind: 'selvage', stitches: 1, style: 'garter' }) }]
        : []),
      { label: 'Marker', run: () => put({ kind: 'marker' }) },
    ],
    design.charts.map((c) => ({
      label: `Panel: ${chartName(design, c)}`,
      run: () => put({ kind: 'panel', chart: c.id }),
    })),
    design.charts.filter(repeatsAcross).map((c) => ({
      label: `Filling: ${chartName(design, c)}, as often as fits`,
      run: () => put({ kind: 'filling', chart: c.id, repeats: 2 }),
    })),
    [
      {
        label: 'Panel of another design …',
        run: () => {
          void dispatch(loadCards());
          setCopying(true);
        },
      },
    ],
  ];
  useOffer(
    'Setting out',
    lines.flat().map(({ label, run }) => command(`put ${label}`, `Add a part: ${label}`, 'Setting out', run)),
  );
  return (
    <>
      <ButtonMenu lines={lines} label="Add a part">
        <Button tone="main" disabled={piece.parts.length >= PIECE_LIMITS.parts}>
          <Plus size={15} aria-hidden /> Add a part
        </Button>
      </ButtonMenu>
      {copying && (
        <CopyPanel
          design={design}
          onClose={() => setCopying(false)}
          onTake={(from, chart) => {
            const ids = { part: shortId(), chart: shortId() };
            const isPut = dispatch(
              editDesign(`panel of ${from.title}`, (now) => panelOfAnother(now, from, chart, after, ids)),
            );
            if (isPut) onAdded(ids.part);
            setCopying(false);
          }}
        />
      )}
    </>
  );
}

/** Chooses a chart of another design: it is copied, and told when the original has changed. */
function CopyPanel({
  design,
  onClose,
  onTake,
}: {
  design: Design;
  onClose: () => void;
  onTake: (from: Design, chart: Chart) => void;
}) {
  const cards = useAppSelector((s) => s.workroom.cards).filter((c) => c.id !== design.id);
  const [from, setFrom] = useState<Design | null>(null);
  const [chart, setChart] = useState('');
  const [said, setSaid] = useState<string | null>(null);
  const open = (id: string) => {
    setFrom(null);
    setSaid(null);
    if (!id) return;
    fetchDesign(id)
      .then(({ document }) => {
        setFrom(document);
        setChart(document.charts[0]!.id);
      })
      .catch((error: unknown) => {
        if (!(error instanceof Refused || error instanceof ServerAway)) throw error;
        setSaid(error.message);
      });
  };
  const taken = from?.charts.find((c) => c.id === chart);
  return (
    <SheetDialog
      open
      onOpenChange={(is) => !is && onClose()}
      title="Panel of another design"
      note="Its chart is copied into this design. The part says when the original has changed."
    >
      <div className="grid gap-3">
        <Choose
          label="Design"
          value={from?.id ?? ''}
          onChange={open}
          options={[['', 'choose …'], ...cards.map((c) => [c.id, c.title] as const)]}
        />
        {from && (
          <Choose
            label="Chart"
            value={chart}
            onChange={setChart}
            options={from.charts.map((c) => [c.id, chartName(from, c)] as const)}
          />
        )}
        {said && <p className="text-madder">{said}</p>}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Leave it</Button>
          <Button tone="main" disabled={!from || !taken} onClick={() => from && taken && onTake(from, taken)}>
            Put it in
          </Button>
        </div>
      </div>
    </SheetDialog>
  );
}
