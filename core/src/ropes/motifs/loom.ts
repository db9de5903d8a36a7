import type { Row } from '../../chart/schema.js';
import type { Stitch } from '../../stitches/book.js';
import { crossing, crossingSize, workedAfter, type Crossing } from '../../stitches/crossing.js';
import { faceOf, type Lean, type Worked } from '../../stitches/face.js';

/** A crossing set at a column, from 0, from the right. */
export interface SetAt {
  column: number;
  crossing: Crossing;
}

/** Weaves rows from the bottom: what is not crossed goes on as it presents. */
export class Loom {
  readonly rows: Row[] = [];
  private faces: Worked[];

  constructor(faces: readonly Worked[]) {
    this.faces = [...faces];
  }

  /** Rows in which everything presents. */
  plain(rows: number): this {
    for (let i = 0; i < rows; i++) this.rows.push([...this.faces]);
    return this;
  }

  /** A row with these crossings. */
  cross(...set: readonly SetAt[]): this {
    const row: Stitch[] = [];
    const after: Worked[] = [];
    const at = new Map(set.map(({ column, crossing: c }) => [column, c]));
    for (let c = 0; c < this.faces.length;) {
      const here = at.get(c);
      row.push(here ?? this.faces[c]!);
      after.push(
        ...(here
          ? workedAfter(here).map((w): Worked => (faceOf(w) === 'knit' ? 'k' : 'p'))
          : [this.faces[c]!]),
      );
      c += here ? crossingSize(here) : 1;
    }
    this.rows.push(row);
    this.faces = after;
    return this;
  }

  /** Crosses so often, with plain rows up to the next crossing after each. */
  every(rows: number, ...crossed: readonly (readonly SetAt[])[]): this {
    for (const set of crossed) this.cross(...set).plain(rows - 1);
    return this;
  }
}

export const knits = (n: number): Worked[] => Array<Worked>(n).fill('k');
export const purls = (n: number): Worked[] => Array<Worked>(n).fill('p');

/** Two ropes of so many stitches crossed at a column. */
export const meet = (column: number, lean: string, stitches: number): SetAt => ({
  column,
  crossing: crossing(lean as Lean, knits(stitches), knits(stitches)),
});

/** A rope that travels one stitch over ground: its right edge is at `column` before. */
export const travel = (column: number, lean: Lean, stitches: number, under: Worked = 'p'): SetAt => ({
  column: lean === 'left' ? column : column - 1,
  crossing: crossing(lean, knits(stitches), [under]),
});

export const other = (lean: string): Lean => (lean === 'left' ? 'right' : 'left');

/** A ground between purls at both sides. */
export const between = (gutter: number, faces: readonly Worked[]): Worked[] => [
  ...purls(gutter),
  ...faces,
  ...purls(gutter),
];
