import { houseOf, inHouse, sameValue, type Design } from '@cordelina/core';
import { House } from 'lucide-react';
import { editHead } from '../desk/state/editing.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { changeStudio, studioIn } from '../desk/state/studio.js';
import { Button } from '../ui/Button.js';

/** The studio's house style against this design's: saved once, and taken by new designs. */
export function HouseStyle({ design }: { design: Design }) {
  const dispatch = useAppDispatch();
  const house = useAppSelector((s) => studioIn(s).house);
  const isSame = house !== null && sameValue(house, houseOf(design));
  const keep = () =>
    dispatch(changeStudio('house style', (studio) => ({ ...studio, house: houseOf(design) })));
  const take = () => {
    const { settings, sheet } = inHouse(design, house);
    dispatch(editHead('house style', { settings, sheet }));
  };
  return (
    <section aria-label="House style" className="border-b border-rule pb-3">
      <p className="flex items-start gap-2 text-[13px] text-slate">
        <House size={14} aria-hidden className="mt-0.5 shrink-0" />
        {house === null
          ? 'No house style yet. Names, manner and page of this design can be kept for new ones.'
          : isSame
            ? 'In the house style, which new designs begin with.'
            : 'Not in the house style, which new designs begin with.'}
      </p>
      {!isSame && (
        <div className="mt-2 flex flex-wrap gap-2">
          {house && <Button onClick={take}>Take it here</Button>}
          <Button onClick={() => void keep()}>{house ? 'Keep this instead' : 'Keep as house style'}</Button>
        </div>
      )}
    </section>
  );
}
