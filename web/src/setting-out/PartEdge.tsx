import {
  chartName,
  CLOTH_KINDS,
  CLOTHS,
  counted,
  countIn,
  countOver,
  lengthText,
  OVER,
  PIECE_LIMITS,
  printOf,
  repeatsAcross,
  typedNumber,
  withCount,
  type Design,
  type Laid,
  type Piece,
  type PiecePart,
  type Size,
  changeBounds,
  movePart,
  mirrorPart,
  copyPart,
  takeOutPart,
  pairWithMirror,
  RIGHT_TO,
  type LaidPart,
  type Settings,
} from '@cordelina/core';
import { ChevronLeft, ChevronRight, Copy, FlipHorizontal2, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { fetchDesign, Refused, ServerAway } from '../sync/server.js';
import { IconButton } from '../ui/Button.js';
import { Entry } from '../ui/Entry.js';
import { Check, Choose } from '../ui/Field.js';
import { GaugeField } from './GaugeField.js';
import { shortId, type PieceActs } from './usePiece.js';

const COUNT = { least: 0, most: PIECE_LIMITS.stitches } as const;

/** The part in hand: what it is, how many stitches it has, how its chart goes up. */
export function PartEdge({
  design,
  piece,
  size,
  laid,
  id,
  acts,
  onChoose,
}: {
  design: Design;
  piece: Piece;
  size: Size;
  laid: Laid;
  id: string;
  acts: PieceActs;
  onChoose: (id: string | null) => void;
}) {
  const i = piece.parts.findIndex((p) => p.id === id);
  const part = piece.parts[i];
  const of = laid.parts[i];
  if (!part || !of) return null;
  const { units } = design.settings;
  const set = (label: string, patch: object) => acts.part(label, id, patch);
  const setBounds = (label: string, bounds: Parameters<typeof changeBounds>[2]) =>
    acts.edit(label, (p) => changeBounds(p, id, bounds));
  // Parts run from the right: further left is later.
  const move = (by: number) => acts.edit('part moved', (p) => movePart(p, id, by));
  const mirrorIt = () => {
    const copy = shortId();
    acts.edit('mirrored part', (p) => mirrorPart(p, id, copy));
    onChoose(copy);
  };
  const number = (label: string, value: number, key: string, least: number, most: number) => (
    <Entry
      label={label}
      inputMode="numeric"
      text={String(value)}
      read={(t) => typedNumber(t, { what: label, least, most })}
      onCommit={(n) => set(label.toLowerCase(), { [key]: n })}
    />
  );
  const bound = (label: string, value: number | null, key: 'least' | 'most', of: number) => (
    <Entry
      label={label}
      inputMode="numeric"
      placeholder="by custom"
      text={value === null ? '' : String(value)}
      read={(t) => typedNumber(t, { what: label, least: part.kind === 'filling' ? 1 : 0, most: of })}
      onCommit={(n) => setBounds(label.toLowerCase(), { [key]: n })}
      onEmptied={() =>
        setBounds(label.toLowerCase(), { [key]: part.kind === 'filling' && key === 'least' ? 1 : null })
      }
    />
  );
  const isOwn = size.counts[id] !== undefined && piece.sizes.length > 1;
  return (
    <section aria-label={`Part: ${of.name}`} className="grid content-start gap-3">
      <div className="flex items-center gap-0.5">
        <h2 className="min-w-0 flex-1 truncate text-[18px] font-semibold">{of.name}</h2>
        <IconButton
          name="One place to the left"
          disabled={i === piece.parts.length - 1}
          onClick={() => move(1)}
        >
          <ChevronLeft size={16} aria-hidden />
        </IconButton>
        <IconButton name="One place to the right" disabled={i === 0} onClick={() => move(-1)}>
          <ChevronRight size={16} aria-hidden />
        </IconButton>
        <IconButton name="Put its mirror image in its mirror place" onClick={mirrorIt}>
          <FlipHorizontal2 size={15} aria-hidden />
        </IconButton>
        <IconButton
          name="Put another like it beside it"
          onClick={() => acts.edit('part', (p) => copyPart(p, id, shortId()))}
        >
          <Copy size={15} aria-hidden />
        </IconButton>
        <IconButton
          name="Take it out"
          onClick={() => {
            acts.edit('part taken out', (p) => takeOutPart(p, id));
            onChoose(null);
          }}
        >
          <Trash2 size={15} aria-hidden />
        </IconButton>
      </div>
      <p className="text-[14px]">
        {part.kind === 'marker'
          ? 'A marker stands here on the needle.'
          : `${counted(of.stitches, 'stitch')}, ${placeTold(of)} from the right${widthTold(of, units)}.`}
      </p>
      {part.kind === 'selvage' && (
        <>
          <Choose
            label="Edge"
            value={part.style}
            onChange={(style) => set('edge', { style })}
            options={[
              ['garter', 'Garter stitch'],
              ['moss', 'Moss (seed) stitch'],
              ['stocking', 'Stocking stitch'],
              ['slipped', 'First stitch slipped'],
            ]}
          />
          {number('Stitches', part.stitches, 'stitches', 1, PIECE_LIMITS.selvage)}
          <Check
            label="Goes into a seam: not in the finished width"
            checked={part.seamed}
            onChange={(seamed) => set('edge in a seam', { seamed })}
          />
        </>
      )}
      {(part.kind === 'ground' || part.kind === 'filling') && (
        <>
          {part.kind === 'ground' && (
            <Choose
              label="Cloth"
              value={part.cloth}
              onChange={(cloth) => set('cloth', { cloth })}
              options={CLOTHS.map((cloth) => [cloth, CLOTH_KINDS[cloth].name] as const)}
            />
          )}
          <Entry
            label={`${part.kind === 'ground' ? 'Stitches' : 'Repeats'}${piece.sizes.length > 1 ? ` in size ${size.name}` : ''}`}
            inputMode="numeric"
            text={String(countIn(part, size))}
            hint={isOwn ? 'of this size alone' : undefined}
            read={(t) =>
              typedNumber(t, {
                what: part.kind === 'ground' ? 'Its stitches' : 'Its repeats',
                least: part.kind === 'ground' ? 0 : 1,
                most: part.kind === 'ground' ? COUNT.most : PIECE_LIMITS.repeats,
              })
            }
            onCommit={(n) => acts.size('stitches', size.id, withCount(piece, size, id, n))}
          />
          <div className="grid grid-cols-2 gap-3">
            {bound(
              'At least',
              part.least,
              'least',
              part.kind === 'ground' ? COUNT.most : PIECE_LIMITS.repeats,
            )}
            {bound('At most', part.most, 'most', part.kind === 'ground' ? COUNT.most : PIECE_LIMITS.repeats)}
          </div>
          <Check
            label="Equal to its mirror place"
            checked={part.pair !== null}
            onChange={(is) => acts.edit('pair', (p) => pairWithMirror(p, id, is ? shortId() : null))}
          />
        </>
      )}
      {(part.kind === 'panel' || part.kind === 'filling') && (
        <>
          <Choose
            label="Chart"
            value={part.chart}
            onChange={(chart) => set('chart', { chart })}
            options={[
              ...design.charts
                .filter((c) => part.kind === 'panel' || repeatsAcross(c) || c.id === part.chart)
                .map((c) => [c.id, chartName(design, c)] as const),
              ...(of.chart ? [] : [[part.chart, 'taken out of the design'] as const]),
            ]}
          />
          <Check
            label="Mirrored"
            checked={part.isMirrored}
            onChange={(isMirrored) => set('mirrored', { isMirrored })}
          />
          <div className="grid grid-cols-2 gap-3">
            {number('Begins on row of the piece', part.starts, 'starts', 1, PIECE_LIMITS.rows)}
            {number('With its own row', part.begins, 'begins', 1, of.chart?.rows.length ?? PIECE_LIMITS.rows)}
          </div>
          <Check
            label="The length goes by its rows"
            checked={piece.length.lead === id}
            onChange={(is) => acts.set('length', { length: { ...piece.length, lead: is ? id : null } })}
          />
          {part.from && <Original part={part} design={design} />}
        </>
      )}
      {'gauge' in part && (
        <GaugeField
          label="Its own gauge"
          units={units}
          design={design}
          chart={'chart' in part ? part.chart : null}
          cloth={'chart' in part ? 'cabled' : 'plain'}
          value={part.gauge && { ...part.gauge, rows: null }}
          onChange={(read) =>
            set('gauge', { gauge: read && { stitches: read.stitches, swatch: read.swatch } })
          }
        />
      )}
      {'gauge' in part && !part.gauge && of.gauge && (
        <p className="text-[13px] text-slate">
          {of.gaugeFrom === 'whole'
            ? 'It goes by the swatch of the whole piece'
            : of.gaugeFrom === 'estimate'
              ? `Its cloth is worked out to lie so, right to about ${Math.round(RIGHT_TO * 100)} %: swatch it`
              : 'It goes by the plain gauge'}
          , {countOver(of.gauge, OVER[units]).toFixed(1)} in {units === 'cm' ? '10 cm' : '4 in'}.
        </p>
      )}
    </section>
  );
}

/** "the 3rd to the 9th", or "the 3rd". */
function placeTold({ before, stitches }: LaidPart): string {
  const nth = (n: number) => `the ${n}${ordinal(n)}`;
  return stitches > 1 ? `${nth(before + 1)} to ${nth(before + stitches)}` : nth(before + 1);
}

/** How wide a part lies, and whether that was measured. */
function widthTold({ part, width, gaugeFrom }: LaidPart, units: Settings['units']): string {
  if (part.kind === 'selvage' && part.seamed) return ', in the seam';
  if (width === null) return '';
  const give = gaugeFrom === 'estimate' ? ` ± ${lengthText(width * RIGHT_TO, units)}` : '';
  return `, ${lengthText(width, units)}${give} wide${give ? ' by its cloth, not by a swatch' : ''}`;
}

const ordinal = (n: number): string =>
  n % 100 > 10 && n % 100 < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][n % 10] ?? 'th');

/** Whether the chart a part's own was copied from is still as it was. */
function Original({ part }: { part: Extract<PiecePart, { kind: 'panel' | 'filling' }>; design: Design }) {
  const [said, setSaid] = useState<string | null>(null);
  const { from } = part;
  useEffect(() => {
    if (!from) return;
    let isOld = false;
    fetchDesign(from.design)
      .then(({ document }) => {
        const chart = document.charts.find((c) => c.id === from.chart);
        const told = !chart
          ? `Copied from ${document.title}, which has that chart no more.`
          : printOf(chart) === from.print
            ? `Copied from ${document.title}, which has it as it was.`
            : `Copied from ${document.title}: there it has changed since.`;
        if (!isOld) setSaid(told);
      })
      .catch((error: unknown) => {
        if (!(error instanceof Refused || error instanceof ServerAway)) throw error;
        if (!isOld && error instanceof Refused) setSaid('Copied from a design that was taken out.');
      });
    return () => {
      isOld = true;
    };
  }, [from]);
  return said && <p className="text-[13px] text-slate">{said}</p>;
}
