/** What cloth as it is worked out misses of the table it was fitted to: not a matter of time, and the same each time. */
import { CUSTOMS } from '../core/test/customs.js';

export function customsMissed(): void {
  console.log('cloth against plain cloth, unstretched, as custom has it:');
  for (const [name, { measured, from, to }] of Object.entries(CUSTOMS)) {
    const is = measured();
    const misses = is < from ? is - from : is > to ? is - to : 0;
    console.log(
      `  ${name}: ${is.toFixed(3)} (${from} to ${to})${misses ? `, misses it by ${misses.toFixed(3)}` : ''}`,
    );
  }
}
