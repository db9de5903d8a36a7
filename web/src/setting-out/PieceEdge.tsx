import { WAYS_SHORT } from '../ui/Ways.js';
import {
  CLOTH_KINDS,
  CLOTHS,
  gramsPerLoop,
  needleText,
  ofSize,
  PIECE_LIMITS,
  typedNeedle,
  typedNumber,
  type Border,
  type Design,
  type Piece,
  type PieceWords,
  type Typed,
  type Size,
  hasSetting,
  isCrossed,
  LEAST_EVERY,
  MOST_BAND_ROUNDS,
  MOST_EVERY,
  USUAL_BAND,
  wayOf,
  YARD,
  GRAM_STEPS,
  yarnTold,
} from '@cordelina/core';
import { Entry } from '../ui/Entry.js';
import { Check, Choose } from '../ui/Field.js';
import { NumberField } from '../ui/NumberField.js';
import { useSwatches } from '../desk/useSwatches.js';
import { GaugeField } from './GaugeField.js';
import type { PieceActs } from './usePiece.js';

/** The piece as a whole: how it is worked, its borders, what it was measured by, its yarn. */
export function PieceEdge({
  design,
  piece,
  size,
  acts,
  words,
}: {
  design: Design;
  piece: Piece;
  size: Size;
  acts: PieceActs;
  words: PieceWords | null;
}) {
  const { units } = design.settings;
  return (
    <div className="grid content-start gap-4">
      <div className="grid grid-cols-2 gap-3">
        <Entry
          label="What it is"
          placeholder="Front"
          text={piece.name}
          read={shortly}
          onCommit={(name) => acts.set('name of the piece', { name })}
          onEmptied={() => acts.set('name of the piece', { name: '' })}
        />
        <Entry
          label="Its sizes fit the"
          placeholder="chest"
          text={piece.fits}
          read={shortly}
          onCommit={(fits) => acts.set('what its sizes fit', { fits })}
          onEmptied={() => acts.set('what its sizes fit', { fits: '' })}
        />
        <Choose
          label="Worked"
          value={piece.construction}
          onChange={(construction) => acts.set('worked', { construction })}
          options={WAYS_SHORT}
        />
        <Choose
          label="First row of the panels"
          value={piece.firstRow}
          disabled={!hasSetting(piece.construction, 'firstRow')}
          onChange={(firstRow) => acts.set('first row', { firstRow })}
          options={[
            ['RS', 'Right side'],
            ['WS', 'Wrong side'],
          ]}
        />
      </div>
      <Check
        label="Markers at both sides of every panel"
        checked={piece.markers}
        onChange={(markers) => acts.set('markers', { markers })}
      />
      <GaugeField
        label="Gauge of plain cloth"
        hasRows
        units={units}
        design={design}
        chart={null}
        cloth="plain"
        value={piece.gauge.plain}
        onChange={(plain, swatch) =>
          acts.set('gauge', {
            gauge: { ...piece.gauge, plain },
            ...(swatch?.needle && piece.needle === null ? { needle: swatch.needle } : {}),
          })
        }
      />
      <GaugeField
        label="Gauge of a swatch of the whole"
        hasRows
        units={units}
        design={design}
        chart={null}
        cloth="cabled"
        value={piece.gauge.whole}
        onChange={(whole) => acts.set('gauge', { gauge: { ...piece.gauge, whole } })}
      />
      {piece.gauge.whole && (
        <p className="-mt-2 text-[13px] text-slate">
          It wins over the sum of the parts: where ropes pull, widths do not simply add up.
        </p>
      )}
      <Entry
        label="Needle"
        placeholder="4, US 6 or UK 8"
        text={piece.needle === null ? '' : String(piece.needle)}
        hint={piece.needle === null ? undefined : needleText(piece.needle)}
        read={typedNeedle}
        onCommit={(needle) => acts.set('needle', { needle })}
        onEmptied={() => acts.set('needle', { needle: null })}
      />
      <BorderFields
        title="Border below"
        end="bottom"
        takesBands={wayOf(piece).takesBands}
        row={rowIn(words, 'Increase', size.name)}
        border={piece.border.bottom}
        onChange={(bottom) => acts.set('border', { border: { ...piece.border, bottom } })}
      />
      <BorderFields
        title="Border above"
        end="top"
        takesBands={wayOf(piece).takesBands}
        row={rowIn(words, 'Decrease', size.name)}
        border={piece.border.top}
        onChange={(top) => acts.set('border', { border: { ...piece.border, top } })}
      />
      <Choose
        label="Its rows are told"
        value={piece.words}
        onChange={(said) => acts.set('words', { words: said })}
        options={[
          ['panels', 'panel by panel'],
          ['rows', 'from edge to edge'],
        ]}
      />
      <Yarn piece={piece} acts={acts} words={words} units={units} />
    </div>
  );
}

/** A word or two. */
const shortly = (text: string): Typed<string> =>
  text.trim().length > 40 ? { problem: 'Forty characters at most.' } : { value: text.trim() };

const DEFAULT: Border = {
  kind: 'wide-rib',
  rows: 12,
  changes: 'ropes',
  fewer: null,
  fold: 'ridge',
  cord: false,
  eyelets: 'around',
  join: 'sewn',
  band: null,
};

const CHANGES: readonly (readonly [Border['changes'], string])[] = [
  ['ropes', 'inside the ropes first'],
  ['even', 'evenly spaced'],
  ['none', 'as many stitches'],
];

function BorderFields({
  title,
  end,
  takesBands,
  row,
  border,
  onChange,
}: {
  title: string;
  end: 'bottom' | 'top';
  /** Whether the piece is worked in a way that has bands. */
  takesBands: boolean;
  /** The row that leads to or from it, in the size in hand. */
  row: string | null;
  border: Border | null;
  onChange: (border: Border | null) => void;
}) {
  const set = (patch: Partial<Border>) => onChange({ ...DEFAULT, ...border, ...patch });
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 text-[14px] font-semibold">{title}</legend>
      <div className="grid grid-cols-[1fr_84px] gap-3">
        <Choose
          label="Cloth"
          value={border?.kind ?? ''}
          onChange={(kind) => (kind === '' ? onChange(null) : set({ kind }))}
          options={[
            ['' as const, 'none'],
            ...CLOTHS.map((cloth) => [cloth, CLOTH_KINDS[cloth].name] as const),
            ['runs-on', 'ribs that run on into the ropes'],
            ['hem', 'a hem, folded'],
          ]}
        />
        {border && (
          <Entry
            label={border.kind === 'hem' ? 'Rows deep' : 'Rows'}
            inputMode="numeric"
            text={String(border.rows)}
            read={(t) => typedNumber(t, { what: 'Its rows', least: 1, most: PIECE_LIMITS.borderRows })}
            onCommit={(rows) => set({ rows })}
          />
        )}
      </div>
      {border?.kind === 'hem' && (
        <div className="grid grid-cols-2 items-end gap-3">
          <Choose
            label="Folded at"
            value={border.fold}
            onChange={(fold) => set({ fold })}
            options={[
              ['ridge', 'a ridge of purls'],
              ['picot', 'a row of eyelets'],
            ]}
          />
          <Check label="Eyelets for a cord" checked={border.cord} onChange={(cord) => set({ cord })} />
          <Choose
            label="Held down"
            value={border.join}
            onChange={(join) => set({ join })}
            options={[
              ['sewn', 'sewn'],
              ['joined', end === 'bottom' ? 'to its cast-on' : 'bound off'],
            ]}
          />
          {border.cord && (
            <Choose
              label="Eyelets"
              value={border.eyelets}
              onChange={(eyelets) => set({ eyelets })}
              options={[
                ['around', 'all round'],
                ['ends', 'at its ends'],
              ]}
            />
          )}
        </div>
      )}
      {border && (
        <div className="grid grid-cols-[1fr_84px] gap-3">
          <Choose
            label="To the panels’ stitches"
            value={border.kind === 'runs-on' && border.changes === 'even' ? 'ropes' : border.changes}
            onChange={(changes) => set({ changes })}
            options={CHANGES.filter(([changes]) => border.kind !== 'runs-on' || changes !== 'even')}
          />
          {border.changes !== 'none' && (
            <Entry
              label="Fewer"
              inputMode="numeric"
              placeholder="by custom"
              text={border.fewer === null ? '' : String(border.fewer)}
              read={(t) => typedNumber(t, { what: 'How many fewer', least: 0, most: PIECE_LIMITS.stitches })}
              onCommit={(fewer) => set({ fewer })}
              onEmptied={() => set({ fewer: null })}
            />
          )}
        </div>
      )}
      {border && takesBands && (
        <div className="grid gap-1.5">
          <Check
            label={`A band between it and the panels`}
            checked={border.band !== null}
            onChange={(on) => set({ band: on ? USUAL_BAND : null })}
          />
          {border.band && (
            <div className="grid gap-1.5 pl-6">
              <NumberField
                spread
                label="Rounds of braid steps"
                of="round"
                value={border.band.rounds}
                most={MOST_BAND_ROUNDS}
                onChange={(rounds) => set({ band: { ...border.band!, rounds } })}
              />
              {isCrossed(border.band) && (
                <NumberField
                  spread
                  label="Stitches to a crossing"
                  of="stitch"
                  value={border.band.every}
                  least={LEAST_EVERY}
                  most={MOST_EVERY}
                  onChange={(every) => set({ band: { ...border.band!, every } })}
                />
              )}
            </div>
          )}
        </div>
      )}
      {border && row && <p className="font-mono text-[12.5px] leading-snug">{row}</p>}
    </fieldset>
  );
}

/** The increase or decrease row of a size, as it is printed; null while there is none. */
function rowIn(words: PieceWords | null, head: string, size: string): string | null {
  const i = words?.sizes.findIndex((s) => s.name === size) ?? -1;
  const line = words?.sections
    .flatMap((s) => s.rows)
    .find((r) => r.head.startsWith(head) && (r.sizes === null || r.sizes.includes(size)));
  if (!line || i < 0) return null;
  return `${line.head}: ${line.sizes ? line.words : ofSize(line.words, i, words!.sizes.length)}`;
}

/** The length of yarn in a ball is told in metres, or in yards where lengths are told in inches. */
const RUN = {
  cm: { label: 'Metres in 100 g', metres: 1 },
  in: { label: 'Yards in 100 g', metres: YARD },
} as const;

function Yarn({
  piece,
  acts,
  words,
  units,
}: {
  piece: Piece;
  acts: PieceActs;
  words: PieceWords | null;
  units: 'cm' | 'in';
}) {
  const run = RUN[units];
  const swatches = useSwatches();
  const { yarn } = piece;
  const weighed = swatches.filter((s) => gramsPerLoop(s) !== null);
  const set = (patch: Partial<Piece['yarn']>) => acts.set('yarn', { yarn: { ...yarn, ...patch } });
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 text-[14px] font-semibold">Yarn</legend>
      <Choose
        label="By the weight of"
        value={yarn.swatch ?? ''}
        onChange={(id) => {
          const swatch = weighed.find((s) => s.id === id);
          set({ swatch: swatch?.id ?? null, grams: swatch ? gramsPerLoop(swatch) : null });
        }}
        options={[
          ['', 'no swatch, so no figure'],
          ...(yarn.swatch && !weighed.some((s) => s.id === yarn.swatch)
            ? [[yarn.swatch, 'a swatch taken out of the book'] as const]
            : []),
          ...weighed.map((s) => [s.id, s.name] as const),
        ]}
      />
      {yarn.grams !== null && (
        <>
          <div className="grid grid-cols-2 gap-3">
            <Entry
              label="Margin, per cent"
              inputMode="numeric"
              text={String(Math.round(yarn.margin * 100))}
              read={(t) => typedNumber(t, { what: 'The margin', least: 0, most: 100 })}
              onCommit={(n) => set({ margin: n / 100 })}
            />
            <Entry
              label={run.label}
              inputMode="numeric"
              placeholder="not known"
              text={yarn.metres === null ? '' : String(Math.round((yarn.metres / run.metres) * 10) / 10)}
              read={(t) => typedNumber(t, { what: 'The run', least: 1, most: 5000, isWhole: false })}
              onCommit={(n) => set({ metres: Math.min(5000, Math.round(n * run.metres * 1000) / 1000) })}
              onEmptied={() => set({ metres: null })}
            />
            <Entry
              label="Pieces of each size"
              inputMode="numeric"
              text={String(yarn.pieces)}
              read={(t) => typedNumber(t, { what: 'The order', least: 1, most: PIECE_LIMITS.pieces })}
              onCommit={(pieces) => set({ pieces })}
            />
          </div>
          {words && (
            <p className="text-[13.5px]">
              {words.sizes.map((s) => `${s.name} ${yarnTold(s.grams ?? 0, GRAM_STEPS.piece)} g`).join(', ')}
              {yarn.pieces > 1 &&
                `; ${yarnTold(words.sizes.reduce((sum, s) => sum + (s.grams ?? 0), 0) * yarn.pieces, GRAM_STEPS.order)} g for the order`}
              {wayOf(piece).loops === 2 && ', half of it in each of A and B: weigh a swatch in pairs'}
              <span className="text-slate">. What the swatch took and the margin, no promise.</span>
            </p>
          )}
        </>
      )}
    </fieldset>
  );
}
