import { z } from 'zod';
import { DesignSchema, FORMAT, RowSchema, StitchSchema } from '../chart/schema.js';

/**
 * The form of a design's document as JSON Schema (2020-12), from the declarations that read it. Rules that hold between fields (that
 * a repeat leaves something to repeat, that ids differ) are told by reading alone.
 */
export function designSchema(): Record<string, unknown> {
  const stitch = z.toJSONSchema(StitchSchema, { io: 'input', unrepresentable: 'any' });
  delete stitch.$schema;
  const schema = z.toJSONSchema(DesignSchema, {
    io: 'input',
    unrepresentable: 'any',
    override: ({ zodSchema, jsonSchema }) => {
      // A row is read stitch by stitch, and stops at the first that is none.
      if ((zodSchema as unknown) === RowSchema || (zodSchema as unknown) === RowSchema.in)
        Object.assign(jsonSchema, { items: { $ref: '#/$defs/stitch' } });
    },
  });
  return {
    ...schema,
    $id: `https://cordelina.invalid/design-${FORMAT}.schema.json`,
    title: 'A design',
    description: `Format ${FORMAT}. Documents of formats before it are brought up to date when they are read.`,
    $defs: { ...(schema.$defs as object | undefined), stitch },
  };
}
