import { startChart, startDesign, type Design } from '@cordelina/core';
import { randomUUID } from 'node:crypto';

export function someDesign(title = 'Trial'): Design {
  return startDesign(
    randomUUID(),
    title,
    startChart({ columns: 8, rows: 4, construction: 'flat', ground: 'p' }),
  );
}
