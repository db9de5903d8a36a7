import { z } from 'zod';

/** A rule that is custom and no law: where its line is drawn is the designer's to say. */
interface Custom {
  /** What it is a measure of, as a setting is called. */
  label: string;
  /** The custom, as it is told beside it. */
  custom: string;
  usual: number;
  least: number;
  most: number;
}

/** The lines that customs draw, each with the custom itself (common practice, no source). */
export const CUSTOMS = {
  mostCrossed: {
    label: 'Stitches in one crossing, at most',
    custom: 'More than eight pull holes beside the crossing and strain the hands.',
    usual: 8,
    least: 2,
    most: 36,
  },
  mostHeld: {
    label: 'Stitches held at once, at most',
    custom: 'More than four on cable needles are hard to work tightly.',
    usual: 4,
    least: 1,
    most: 24,
  },
  longestFloat: {
    label: 'Stitches a float passes, at most',
    custom: 'Over more than five stitches a float catches fingers and pulls in.',
    usual: 5,
    least: 1,
    most: 50,
  },
  mostSlipped: {
    label: 'Rows a stitch is slipped running, at most',
    custom: 'Past four rows it is drawn out so far that it pulls in the rows beside it.',
    usual: 4,
    least: 1,
    most: 14,
  },
  purlsBeside: {
    label: 'Purls between a rope and its neighbour, at least',
    custom: 'With fewer than two a rope does not stand out.',
    usual: 2,
    least: 0,
    most: 2,
  },
  rowsBeforeAgain: {
    label: 'Rows within which the same ropes are crossed again too soon',
    custom: 'A rope crosses after about as many rows as it has stitches; within two it is strangled.',
    usual: 2,
    least: 0,
    most: 12,
  },
  shareAstray: {
    label: 'One crossing in so many, at most, is taken for a slip',
    custom: 'Where more of an interlace, a panel or a rhythm goes another way, it is meant so.',
    usual: 3,
    least: 2,
    most: 20,
  },
} as const satisfies Record<string, Custom>;

export type CustomName = keyof typeof CUSTOMS;

const line = ({ usual, least, most }: Custom) => z.int().min(least).max(most).default(usual);

export const RulesSchema = z.strictObject({
  mostCrossed: line(CUSTOMS.mostCrossed),
  mostHeld: line(CUSTOMS.mostHeld),
  longestFloat: line(CUSTOMS.longestFloat),
  mostSlipped: line(CUSTOMS.mostSlipped),
  purlsBeside: line(CUSTOMS.purlsBeside),
  rowsBeforeAgain: line(CUSTOMS.rowsBeforeAgain),
  shareAstray: line(CUSTOMS.shareAstray),
} satisfies Record<CustomName, z.ZodType>);

/** Where a design draws the lines of custom. */
export type Rules = Readonly<z.infer<typeof RulesSchema>>;

export const USUAL_RULES: Rules = Object.freeze(RulesSchema.parse({}));
