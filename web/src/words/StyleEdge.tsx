import {
  headChange,
  SCHOOL_NOTES,
  SCHOOLS,
  showTwists,
  wayOf,
  type Design,
  type Settings,
} from '@cordelina/core';
import { editHead, make } from '../desk/state/editing.js';
import { useAppDispatch } from '../desk/state/index.js';
import { newId } from '../sync/newId.js';
import { Check, Choose } from '../ui/Field.js';
import { HouseStyle } from './HouseStyle.js';

/** How the words are written; every change is an edit like any other and can be undone on the bench. */
export function StyleEdge({ design }: { design: Design }) {
  const { settings } = design;
  const dispatch = useAppDispatch();
  const set = (patch: Partial<Settings>) =>
    dispatch(editHead('style of the words', { settings: { ...settings, ...patch } }));
  const style = (patch: Partial<Settings['style']>) => set({ style: { ...settings.style, ...patch } });
  /** How twists are worked, and the twists of all charts shown so, as one change. */
  const twistBy = (twist: Settings['twist']) => {
    const head = headChange(design, { settings: { ...settings, twist } }, 'how twists are worked', newId());
    if (!head) return;
    const shown = design.charts.flatMap((c) => showTwists(c, twist, settings.hand).steps);
    dispatch(make({ ...head, steps: [...head.steps, ...shown] }));
  };
  const { example, meaning } = SCHOOL_NOTES[settings.school];
  return (
    <div className="flex flex-col gap-3.5">
      <HouseStyle design={design} />
      <Choose
        label="Names of crossings"
        hint={`${example}: ${meaning}`}
        value={settings.school}
        onChange={(school) => set({ school })}
        options={SCHOOLS.map((s) => [s, SCHOOL_NOTES[s].title])}
      />
      <Choose
        label="Wrong-side rows that only repeat the faces"
        value={settings.style.wsRows}
        onChange={(wsRows) => style({ wsRows })}
        options={[
          ['written', 'written out'],
          ['presented', 'as they present'],
        ]}
      />
      <Choose
        label="Equal rows"
        value={settings.style.equal}
        onChange={(equal) => style({ equal })}
        options={[
          ['joined', 'joined: as row 2'],
          ['apart', 'each written out'],
        ]}
      />
      <Choose
        label="Words"
        value={settings.style.form}
        onChange={(form) => style({ form })}
        options={[
          ['short', 'abbreviations: k2, ssk'],
          ['full', 'in full: knit 2, slip slip knit'],
        ]}
      />
      <Choose
        label="Terms"
        value={settings.style.terms}
        onChange={(terms) => style({ terms })}
        options={[
          ['US', 'American: yarn over'],
          ['UK', 'British: yarn round needle'],
        ]}
      />
      <Choose
        label="Stitch counts"
        value={settings.style.counts}
        onChange={(counts) => style({ counts })}
        options={[
          ['every', 'after every row'],
          ['changes', 'where they change'],
        ]}
      />
      <Choose
        label="Rows that repeat"
        value={settings.style.length}
        onChange={(length) => style({ length })}
        options={[
          ['counted', 'so many times'],
          ['open', 'to the length wished'],
        ]}
      />
      <Choose
        label="Uneven crossings are told"
        value={settings.style.spelled}
        onChange={(spelled) => style({ spelled })}
        options={[
          ['key', 'in the key'],
          ['first', 'in the key, and where first met'],
        ]}
      />
      <Choose
        label="Knitter"
        value={settings.hand}
        onChange={(hand) => set({ hand })}
        options={[
          ['right', 'right-handed'],
          ['left-same-fabric', 'left-handed, same fabric'],
          ['left-same-words', 'left-handed, same words, mirrored cloth'],
        ]}
      />
      <Choose
        label="Two-stitch twists"
        value={settings.twist}
        onChange={twistBy}
        options={[
          ['cable', 'with a cable needle'],
          ['together', 'knit two together, then the first again'],
          ['second-first', 'the second stitch before the first'],
          ['left-tbl', 'left through both back loops, right the second in front'],
          ['both-tbl', 'both stitches through the back loops'],
        ]}
        hint={
          settings.twist === 'cable'
            ? undefined
            : 'A stitch worked through its back loop is twisted: the charts show their twists as they are worked.'
        }
      />
      <Choose
        label="Two-stitch twists are called"
        value={settings.twistNames}
        onChange={(twistNames) => set({ twistNames })}
        options={[
          ['crossing', 'as other crossings: 1/1 LC'],
          ['twist', 'LT and RT; LPT and RPT over purl'],
        ]}
      />
      {design.charts.some((chart) => wayOf(chart).loops === 2) && (
        <Choose
          label="Numbers in names of crossings"
          value={settings.style.pairNames}
          onChange={(pairNames) => style({ pairNames })}
          options={[
            ['pairs', 'count pairs: 2/2 RC'],
            ['loops', 'count their loops: 4/4 RC'],
          ]}
        />
      )}
      <Choose
        label="Bobbles"
        value={settings.bobble}
        onChange={(bobble) => set({ bobble })}
        options={[
          [3, 'of 3 loops'],
          [5, 'of 5 loops'],
          [7, 'of 7 loops'],
        ]}
      />
      <Check
        label="Also say how to cross without a cable needle, up to three stitches a group"
        checked={settings.cableless}
        onChange={(cableless) => set({ cableless })}
      />
      <Choose
        label="Plain cells"
        value={settings.plain}
        onChange={(plain) => set({ plain })}
        options={[
          ['empty', 'knit empty, purl a dot'],
          ['bars', 'knit upright, purl level bar'],
        ]}
      />
    </div>
  );
}
