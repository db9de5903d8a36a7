import {
  acrossName,
  BODY_NAMES,
  BODY_TABLES,
  countIn,
  layOut,
  lengthText,
  PIECE_LIMITS,
  typedLength,
  typedNumber,
  typedText,
  UNIT,
  withCount,
  withFit,
  LONGEST,
  type Design,
  type Piece,
  type PieceWords,
  type Size,
  putSizes,
  fitSizes,
  takeOutSize,
} from '@cordelina/core';
import { Plus, Trash2, WandSparkles } from 'lucide-react';
import { Button, IconButton } from '../ui/Button.js';
import { Entry } from '../ui/Entry.js';
import { Choose, Select } from '../ui/Field.js';
import { shortId, type PieceActs } from './usePiece.js';
import { Ways } from './Ways.js';

type Counted = Extract<Piece['parts'][number], { kind: 'ground' | 'filling' }>;

/** Sizes in a table: what is wished for, what may change, and what comes of it; beside it the ways to the width of the one in hand. */
export function SizesPane({
  design,
  piece,
  size,
  acts,
  words,
  isProving,
  onSize,
}: {
  design: Design;
  piece: Piece;
  size: Size;
  acts: PieceActs;
  words: PieceWords | null;
  /** Whether the words of the piece as it now is are still being made. */
  isProving: boolean;
  onSize: (id: string) => void;
}) {
  const { units } = design.settings;
  // Of parts that share a number one stands for all of them.
  const counted = piece.parts.filter(
    (p, i): p is Counted =>
      (p.kind === 'ground' || p.kind === 'filling') &&
      (p.pair === null ||
        piece.parts.findIndex((o) => 'pair' in o && o.pair === p.pair && o.kind === p.kind) === i),
  );
  const add = (more: readonly Pick<Size, 'name' | 'measure'>[]) => {
    const ids = more.map(shortId);
    const left = [...ids];
    acts.edit('sizes', (p) => putSizes(p, more, () => left.shift()!));
    if (ids[0] !== undefined) onSize(ids[0]);
  };
  const fitAll = () => acts.edit('fit all sizes', (p) => fitSizes(design, p));
  const length = (label: string, s: Size, key: 'measure' | 'length') => (
    <Entry
      label={`${label}, ${s.name}`}
      isHidden
      className="text-right"
      placeholder="–"
      text={s[key] === null ? '' : typedText(s[key], units)}
      read={(t) => typedLength(t, units, { what: label, least: UNIT.cm, most: LONGEST / 2 })}
      onCommit={(l) => acts.size(label.toLowerCase(), s.id, { [key]: l })}
      onEmptied={() => acts.size(label.toLowerCase(), s.id, { [key]: null })}
    />
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_264px] gap-5 max-[1100px]:grid-cols-1">
      <div className="min-w-0">
        <div className="relative overflow-x-auto">
          <table className="w-full min-w-[600px] border-collapse text-[14px]" aria-label="Sizes">
            <thead className="text-[12.5px] leading-tight text-slate">
              <tr className="border-b border-slate/80 [&>th]:px-1.5 [&>th]:pb-1 [&>th]:align-bottom [&>th]:font-normal">
                <th scope="col" className="text-left">
                  Size
                </th>
                <th scope="col" className="text-right">
                  {piece.around === 2
                    ? 'Body, all round'
                    : acrossName(piece) === 'Circumference'
                      ? 'Measure, all round'
                      : 'Measure'}
                </th>
                <th scope="col" className="text-right">
                  Ease
                </th>
                <th scope="col" className="text-right">
                  Length
                </th>
                {counted.map((p) => (
                  <th key={p.id} scope="col" className="text-right">
                    {nameOf(design, piece, p)}
                  </th>
                ))}
                <th scope="col" className="text-right">
                  Cast on
                </th>
                <th scope="col" className="text-right">
                  {acrossName(piece)}
                </th>
                <th scope="col" className="text-right">
                  Long
                </th>
                <th scope="col">
                  <span className="sr-only">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {piece.sizes.map((s) => {
                const laid = layOut(design, piece, s);
                const told = words?.sizes.find((w) => w.id === s.id);
                const off = laid.width !== null && laid.wanted !== null ? laid.width - laid.wanted : null;
                return (
                  <tr
                    key={s.id}
                    onFocus={() => s.id !== size.id && onSize(s.id)}
                    onClick={() => s.id !== size.id && onSize(s.id)}
                    className={`border-b border-rule ${s.id === size.id ? 'bg-wash shadow-[inset_3px_0_0_var(--peat)]' : ''} [&>td]:px-1.5 [&>td]:py-1`}
                  >
                    <td className="w-[92px]">
                      <Entry
                        label={`Name of size ${s.name}`}
                        isHidden
                        text={s.name}
                        read={(t) =>
                          t.trim().length > 40
                            ? { problem: 'A name has up to 40 letters.' }
                            : { value: t.trim() }
                        }
                        onCommit={(name) => name && acts.size('name', s.id, { name })}
                      />
                    </td>
                    <td className="w-[76px]">{length('The measure', s, 'measure')}</td>
                    <td className="w-[66px]">
                      <Entry
                        label={`Ease, ${s.name}`}
                        isHidden
                        className="text-right"
                        text={s.ease < 0 ? `-${typedText(-s.ease, units)}` : typedText(s.ease, units)}
                        read={(t) => {
                          const isLess = /^\s*[-−]/.test(t);
                          const read = typedLength(t.replace(/^\s*[-−+]/, ''), units, {
                            what: 'The ease',
                            least: 0,
                            most: LONGEST / 20,
                          });
                          return 'value' in read ? { value: isLess ? -read.value : read.value } : read;
                        }}
                        onCommit={(ease) => acts.size('ease', s.id, { ease })}
                      />
                    </td>
                    <td className="w-[76px]">{length('The length', s, 'length')}</td>
                    {counted.map((p) => (
                      <td key={p.id} className="w-[64px]">
                        <Entry
                          label={`${nameOf(design, piece, p)}, ${s.name}`}
                          isHidden
                          inputMode="numeric"
                          className="text-right"
                          text={String(countIn(p, s))}
                          read={(t) =>
                            typedNumber(t, {
                              what: 'A count',
                              least: p.kind === 'ground' ? 0 : 1,
                              most: p.kind === 'ground' ? PIECE_LIMITS.stitches : PIECE_LIMITS.repeats,
                            })
                          }
                          onCommit={(n) => acts.size('count', s.id, withCount(piece, s, p.id, n))}
                        />
                      </td>
                    ))}
                    <td className="text-right font-semibold tabular-nums" data-testid={`cast-on-${s.name}`}>
                      {told?.castOn ?? (isProving ? '…' : '–')}
                    </td>
                    <td className="text-right whitespace-nowrap tabular-nums">
                      {laid.width === null ? '–' : lengthText(laid.width, units)}
                      {off !== null && Math.abs(off) >= 500 && (
                        <span
                          className={`block text-[12px] ${Math.abs(off) > UNIT.cm ? 'text-madder' : 'text-slate'}`}
                        >
                          {off > 0 ? '+' : '−'}
                          {lengthText(Math.abs(off), units)}
                        </span>
                      )}
                    </td>
                    <td className="text-right whitespace-nowrap tabular-nums">
                      {told?.length ? lengthText(told.length, units) : '–'}
                    </td>
                    <td className="text-right">
                      <IconButton
                        name={`Take size ${s.name} out`}
                        disabled={piece.sizes.length === 1}
                        onClick={() => acts.edit('size taken out', (p) => takeOutSize(p, s.id))}
                      >
                        <Trash2 size={14} aria-hidden />
                      </IconButton>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Button
            onClick={() =>
              add([{ name: `Size ${piece.sizes.length + 1}`, measure: piece.sizes.at(-1)!.measure }])
            }
            disabled={piece.sizes.length >= PIECE_LIMITS.sizes}
          >
            <Plus size={14} aria-hidden /> A size
          </Button>
          <Select
            aria-label="Sizes of the trade’s table"
            className="!w-auto"
            value=""
            onChange={(e) => {
              const table = BODY_TABLES[e.target.value as keyof typeof BODY_TABLES];
              add(table.map(({ name, chest }) => ({ name, measure: chest })));
            }}
          >
            <option value="">Sizes of the trade’s table …</option>
            {Object.entries(BODY_NAMES).map(([key, name]) => (
              <option key={key} value={key}>
                {name}, chest {BODY_TABLES[key as keyof typeof BODY_TABLES].map((s) => s.name).join(' ')}
              </option>
            ))}
          </Select>
          <Button onClick={fitAll} disabled={piece.sizes.every((s) => s.measure === null)}>
            <WandSparkles size={14} aria-hidden /> Fit all sizes
          </Button>
          <div className="ml-auto flex items-end gap-3">
            <label className="flex items-center gap-2 text-[14px]">
              <input
                type="checkbox"
                checked={piece.around === 2}
                onChange={(e) => acts.set('around', { around: e.target.checked ? 2 : 1 })}
              />
              half of the body: front and back
            </label>
            <Choose
              label="Length"
              value={piece.length.way}
              onChange={(way) => acts.set('length', { length: { ...piece.length, way } })}
              options={[
                ['whole', 'whole repeats'],
                ['part', 'ended part-way'],
                ['centred', 'begun and ended alike'],
              ]}
            />
          </div>
        </div>
      </div>
      <Ways
        design={design}
        piece={piece}
        size={size}
        units={units}
        onTake={(way) => acts.size('fit', size.id, withFit(piece, size, way))}
        onLength={(way) => acts.set('length', { length: { ...piece.length, way } })}
      />
    </div>
  );
}

/** What the number of a part is called: "1st ground", "Lattice ×". */
function nameOf(design: Design, piece: Piece, part: Counted): string {
  const of = layOut(design, piece, piece.sizes[0]!).parts.find((p) => p.part.id === part.id);
  return part.kind === 'filling' ? `${of?.name ?? ''} ×` : (of?.name ?? '');
}
