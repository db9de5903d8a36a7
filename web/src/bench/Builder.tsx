import {
  behindCrossing,
  inRib,
  isInRib,
  crossing,
  crossingProblem,
  crossingSteps,
  crossingSize,
  crossingSwatch,
  flipCrossing,
  LARGEST_GROUP,
  mirrorCrossing,
  nameOf,
  SCHOOL_NOTES,
  looseText,
  reorderOf,
  schoolName,
  SCHOOLS,
  turnCrossing,
  WORKED,
  type Crossing,
  type Hand as KnittingHand,
  mannerOf,
  sideSign,
  wayOf,
  type Chart,
  type Naming,
  type Worked,
} from '@cordelina/core';
import { ArrowDownUp, ArrowLeftRight, FlipHorizontal2, Hand } from 'lucide-react';
import { ToggleGroup, Toolbar as Bar } from 'radix-ui';
import { memo, useMemo, useState } from 'react';
import { SmallCloth } from '../ui/fabric/SmallCloth.js';
import { Button, IconButton } from '../ui/Button.js';
import { NumberField } from '../ui/NumberField.js';
import { StitchDrawing } from '../ui/StitchDrawing.js';

const SHOWN: Record<Worked, string> = { k: 'k', p: 'p', ktbl: 'k tbl', ptbl: 'p tbl' };
/** A pair shows the one yarn or the other, and is never twisted. */
const SHOWN_OF_PAIRS: Readonly<Partial<Record<Worked, string>>> = { k: 'A', p: 'B' };

type Group = 'front' | 'centre' | 'back';

/** The groups of a crossing, with the fewest stitches each may have. */
const GROUPS: readonly (readonly [Group, number])[] = [
  ['front', 1],
  ['centre', 0],
  ['back', 1],
];

/** Grows or shrinks a group; new stitches are worked like its last. */
function resized(group: readonly Worked[], size: number, otherwise: Worked): Worked[] {
  return Array.from({ length: size }, (_, i) => group[i] ?? group.at(-1) ?? otherwise);
}

/** The groups of a crossing, knit. */
const plainly = ({ front, centre, back }: Crossing): Record<Group, Worked[]> => {
  const knit = (group: readonly Worked[]) => group.map((): Worked => 'k');
  return { front: knit(front), centre: knit(centre), back: knit(back) };
};

/** A crossing is drawn of the book's own stitches. */
const BOOK = { own: [] };

/** The crossing builder: groups by number, lean and faces, drawn as it is built and named in every school. */
export const Builder = memo(function Builder({
  built,
  onBuild,
  onTake,
  inHand,
  naming,
  hand,
  construction,
  onRefuse,
}: {
  built: Crossing;
  onBuild: (c: Crossing) => void;
  onTake: () => void;
  inHand: boolean;
  naming: Naming;
  hand: KnittingHand;
  construction: Chart['construction'];
  /** Says why a number cannot be. */
  onRefuse: (message: string) => void;
}) {
  const set = (groups: Partial<Record<Group, readonly Worked[]>>, lean = built.lean) =>
    onBuild(
      crossing(lean, groups.front ?? built.front, groups.back ?? built.back, groups.centre ?? built.centre),
    );
  const resize = (group: Group, size: number) => {
    const sizes = {
      front: built.front.length,
      centre: built.centre.length,
      back: built.back.length,
      [group]: size,
    };
    const problem = crossingProblem(sizes.front, sizes.centre, sizes.back);
    if (problem) return onRefuse(problem);
    const made = { ...built, [group]: resized(built[group], size, 'k') };
    const resizedTo = crossing(built.lean, made.front, made.back, made.centre);
    return onBuild(isInRib(built) ? inRib(resizedTo) : resizedTo);
  };
  const [side, setSide] = useState<'RS' | 'WS'>('RS');
  const allBack = (w: Worked) => built.back.every((b) => b === w);
  const size = crossingSize(built);
  const inPairs = wayOf({ construction }).loops === 2;
  const swatch = useMemo(
    () => crossingSwatch(built, inPairs ? construction : undefined),
    [built, inPairs, construction],
  );
  return (
    <section aria-label="Crossing builder" className="grid gap-2 border-b border-rule px-3 pt-2.5 pb-3">
      <h2 className="text-[15px] font-semibold">{inPairs ? 'Crossing of pairs' : 'Crossing'}</h2>
      {GROUPS.map(([group, least]) => (
        <NumberField
          key={group}
          label={group}
          of={`in ${group}`}
          value={built[group].length}
          least={least}
          most={LARGEST_GROUP}
          spread
          refusable
          onChange={(n) => resize(group, n)}
        />
      ))}
      <Choice
        name="leans"
        value={built.lean}
        options={[
          ['left', 'left'],
          ['right', 'right'],
        ]}
        onChange={(lean) => set({}, lean)}
      />
      <Choice
        name={inPairs ? 'back shows' : 'back is'}
        value={allBack('k') ? 'k' : allBack('p') ? 'p' : 'mixed'}
        options={[
          ['k', inPairs ? 'A' : 'knit'],
          ['p', inPairs ? 'B' : 'purl'],
        ]}
        onChange={(w) => set({ back: built.back.map(() => w as Worked) })}
      />
      <Choice
        name={inPairs ? 'yarns' : 'worked'}
        value={isInRib(built) ? 'rib' : 'plain'}
        options={[
          ['plain', inPairs ? 'one' : 'plain'],
          ['rib', inPairs ? 'both' : 'in rib'],
        ]}
        onChange={(w) => {
          if (w === 'plain') return set(plainly(built));
          const ribbed = inRib(built);
          if (!isInRib(ribbed))
            return onRefuse(
              `${inPairs ? 'Both yarns in turn are two pairs' : 'A rib is two stitches'}: make the groups even first.`,
            );
          return onBuild(ribbed);
        }}
      />
      <details className="text-[13px]">
        <summary className="cursor-pointer text-slate select-none">
          {inPairs ? 'pair by pair' : 'stitch by stitch'}
        </summary>
        {(['front', 'centre', 'back'] as const).map((g) =>
          built[g].length ? (
            <Faces
              key={g}
              name={g}
              group={built[g]}
              shown={inPairs ? SHOWN_OF_PAIRS : SHOWN}
              what={inPairs ? 'pair' : 'stitch'}
              onChange={(group) => set({ [g]: group })}
            />
          ) : null,
        )}
      </details>
      <button
        type="button"
        aria-label={`The cloth of this crossing, ${inPairs ? sideSign(side, { construction }) : side === 'RS' ? 'right side' : 'wrong side'}. Turn it over`}
        title="Turn the cloth over"
        className="relative border border-rule"
        data-testid="builder-drawing"
        onClick={() => setSide(side === 'RS' ? 'WS' : 'RS')}
      >
        <SmallCloth chart={swatch} width={181} height={104} side={side} />
        <span className="absolute right-1 bottom-1 rounded-sm bg-chalk px-1 text-[11.5px] leading-4">
          {sideSign(side, { construction })}
        </span>
      </button>
      <Bar.Root aria-label="The crossing" className="flex items-center">
        <span
          className="mr-auto"
          title={side === 'RS' ? 'As the chart shows it' : 'What the wrong side shows'}
        >
          <StitchDrawing
            stitch={side === 'RS' ? built : behindCrossing(built)}
            chart={BOOK}
            height={18}
            most={76}
          />
        </span>
        <Bar.Button asChild>
          <IconButton name="Turn the lean" onClick={() => onBuild(turnCrossing(built))}>
            <ArrowLeftRight size={16} />
          </IconButton>
        </Bar.Button>
        <Bar.Button asChild>
          <IconButton name="Swap over and under" onClick={() => onBuild(flipCrossing(built))}>
            <ArrowDownUp size={16} />
          </IconButton>
        </Bar.Button>
        <Bar.Button asChild>
          <IconButton name="Mirror the crossing" onClick={() => onBuild(mirrorCrossing(built))}>
            <FlipHorizontal2 size={16} />
          </IconButton>
        </Bar.Button>
      </Bar.Root>
      <Button
        tone={inHand ? 'main' : 'plain'}
        aria-pressed={inHand}
        onClick={onTake}
        title="In hand, a click on the chart sets it, and Enter sets it at the cursor"
      >
        <Hand size={15} aria-hidden /> {inHand ? 'in hand: let go' : 'take in hand'}
      </Button>
      <details className="text-[13px]">
        <summary className="cursor-pointer text-slate select-none">how it is worked</summary>
        <Steps built={built} hand={hand} construction={construction} />
      </details>
      <details className="text-[13px]">
        <summary className="cursor-pointer select-none">
          <span className="font-mono text-[13.5px] font-semibold" data-testid="builder-name">
            {nameOf(built, naming) ?? `${size} ${inPairs ? 'pairs' : 'stitches'}, spelled out`}
          </span>
        </summary>
        <dl className="mt-1 grid gap-1">
          {SCHOOLS.filter((s) => s !== 'spelled').map((school) => (
            <div key={school}>
              <dt className="text-[12px] text-slate">{SCHOOL_NOTES[school].title}</dt>
              <dd className="font-mono text-[12.5px]">{schoolName(built, school, naming)}</dd>
            </div>
          ))}
        </dl>
      </details>
    </section>
  );
});

/** How it is worked, with a cable needle on both sides and, where there is one, another way. */
function Steps({
  built,
  hand,
  construction,
}: {
  built: Crossing;
  hand: KnittingHand;
  construction: Chart['construction'];
}) {
  const manner = mannerOf({ form: 'short', terms: 'US' }, { construction });
  const loose = reorderOf(built, 'RS', hand);
  return (
    <dl className="mt-1 grid gap-1 text-[12.5px] leading-snug">
      <dt className="text-slate">right side</dt>
      <dd>{crossingSteps(built, 'RS', hand, manner)}</dd>
      <dt className="text-slate">wrong side</dt>
      <dd>{crossingSteps(built, 'WS', hand, manner)}</dd>
      {loose && (
        <>
          <dt className="text-slate">without a cable needle</dt>
          <dd>{looseText(loose, manner)}</dd>
        </>
      )}
    </dl>
  );
}

function Choice<T extends string>({
  name,
  value,
  options,
  onChange,
}: {
  name: string;
  value: string;
  options: [T, string][];
  onChange: (value: T) => void;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={name}
      value={value}
      onValueChange={(key) => key && onChange(key as T)}
      className="flex items-center"
    >
      <span className="mr-auto text-[14px]">{name}</span>
      {options.map(([key, label], i) => (
        <ToggleGroup.Item
          key={key}
          value={key}
          className={`h-7 w-[46px] border border-slate/80 bg-chalk text-[13.5px] hover:border-peat aria-checked:border-peat aria-checked:bg-peat aria-checked:text-chalk ${i === 0 ? 'rounded-l-sm border-r-0' : 'rounded-r-sm'}`}
        >
          {label}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

function Faces({
  name,
  group,
  shown,
  what,
  onChange,
}: {
  name: Group;
  group: readonly Worked[];
  /** The faces a stitch may have, by how they are called. */
  shown: Readonly<Partial<Record<Worked, string>>>;
  what: 'stitch' | 'pair';
  onChange: (group: Worked[]) => void;
}) {
  const faces = WORKED.filter((w) => shown[w]);
  const next = (w: Worked) => faces[(faces.indexOf(w) + 1) % faces.length]!;
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-1">
      <span className="w-full text-[12px] text-slate">{name}, from the right</span>
      {group.map((w, i) => (
        <button
          key={i}
          type="button"
          aria-label={`${name} ${what} ${i + 1}: ${shown[w] ?? SHOWN[w]}. Change it`}
          onClick={() => onChange(group.map((g, j) => (j === i ? next(g) : g)))}
          className="h-6 min-w-6 rounded-sm border border-slate/80 bg-chalk px-1 font-mono text-[12px] hover:border-peat"
        >
          {shown[w] ?? SHOWN[w]}
        </button>
      ))}
    </div>
  );
}
