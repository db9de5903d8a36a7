import { MOST_PROBLEMS, type Problem } from '../reader/pattern-lines.js';

/** What a proof has found wrong so far; past a bound it only says that there is more. */
export class Problems {
  readonly list: Problem[] = [];

  get full(): boolean {
    return this.list.length >= MOST_PROBLEMS;
  }

  tell(id: string, message: string, row?: number): void {
    if (!this.full) this.list.push({ id, level: 'error', ...(row === undefined ? {} : { row }), message });
  }
}
