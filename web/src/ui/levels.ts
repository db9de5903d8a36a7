import { CircleAlert, Info, TriangleAlert } from 'lucide-react';

/** How what is told looks, by how grave it is. */
export const LEVEL_LOOK = {
  error: { Icon: CircleAlert, tone: 'text-madder', name: 'Error' },
  caution: { Icon: TriangleAlert, tone: 'text-weld', name: 'Caution' },
  note: { Icon: Info, tone: 'text-slate', name: 'Note' },
} as const;
