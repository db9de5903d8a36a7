import type { Hand } from '../../construction/index.js';
import { crossing, type Crossing } from '../../stitches/crossing.js';
import { otherSide, type Side, type Worked } from '../../stitches/face.js';
import type { Loose } from '../pattern.js';

/** The crossing, as the RS shows it, of two groups worked one after the other, the one worked first from beyond the other. */
function exchanged(
  first: readonly Worked[],
  second: readonly Worked[],
  isSecondAhead: boolean,
  side: Side,
  hand: Hand,
): Crossing {
  const onRs = side === 'RS';
  const mirrored = hand === 'left-same-fabric';
  const seen = (group: readonly Worked[]) => {
    const shown = onRs ? [...group] : [...group].reverse().map(otherSide);
    return mirrored ? shown.reverse() : shown;
  };
  const isSecondInFront = isSecondAhead === onRs;
  // The group met first is worked second and goes on in working order.
  const isSecondLeftwards = onRs !== mirrored;
  const lean = isSecondInFront === isSecondLeftwards ? 'left' : 'right';
  return isSecondInFront
    ? crossing(lean, seen(second), seen(first))
    : crossing(lean, seen(first), seen(second));
}

/** The crossing that a way without a cable needle makes; null where its numbers do not fit together. */
export function crossingOfLoose(loose: Loose, side: Side, hand: Hand): Crossing | null {
  if (loose.type === 'twist') {
    const plain = loose.work;
    const twisted = `${plain}tbl` as Worked;
    // The stitch met second is worked first: with "the second" alone through its back loop, that one. Knit together through
    // the back loops the first lies on top of the second, and is worked again through its front.
    const isTogetherBack = loose.way === 'together' && loose.back === 'both';
    const first = loose.back === 'none' ? plain : twisted;
    const second = loose.back === 'both' && !isTogetherBack ? twisted : plain;
    return exchanged([first], [second], loose.way === 'from-behind' || isTogetherBack, side, hand);
  }
  const { needle, enter, way, slide, pinch, hold, first, second } = loose;
  const fits =
    enter.from === pinch + 1 &&
    enter.to === slide &&
    pinch === second.length &&
    slide - pinch === first.length &&
    (way === 'behind') === (hold === 'front') &&
    needle === (hand === 'left-same-fabric' ? 'left' : 'right');
  return fits ? exchanged(first, second, hold === 'front', side, hand) : null;
}
