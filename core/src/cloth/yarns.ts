import type { YarnName } from '../chart/cloth-settings.js';
import type { Yarn } from './shade.js';

/** The yarns of the hut's store: undyed, dyed in the fleece, and heathered. */
export const YARNS: Record<YarnName, Yarn & { name: string }> = {
  fleece: { name: 'undyed fleece', colour: [238, 229, 210], fleck: [238, 229, 210], flecked: 0 },
  oatmeal: { name: 'oatmeal heather', colour: [206, 188, 158], fleck: [120, 99, 76], flecked: 0.22 },
  peat: { name: 'natural peat', colour: [104, 88, 76], fleck: [66, 55, 48], flecked: 0.12 },
  slate: { name: 'slate heather', colour: [126, 136, 148], fleck: [206, 208, 206], flecked: 0.16 },
  lichen: { name: 'lichen heather', colour: [142, 154, 108], fleck: [214, 190, 104], flecked: 0.2 },
  woad: { name: 'woad', colour: [78, 118, 156], fleck: [78, 118, 156], flecked: 0 },
  weld: { name: 'weld', colour: [214, 172, 78], fleck: [214, 172, 78], flecked: 0 },
  rowan: { name: 'rowan heather', colour: [168, 74, 62], fleck: [92, 44, 58], flecked: 0.16 },
};
