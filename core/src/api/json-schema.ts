import { z } from 'zod';
import { DesignSchema, FORMAT, RowSchema, StitchSchema } from '../chart/schema.js';

/** Declarations as JSON Schema (2020-12), for whoever checks from outside. */

const bare = (
  schema: z.ZodType,
  override?: (zod: unknown, json: Record<string, unknown>) => void,
): Record<string, unknown> => {
  const { $schema: _, ...json } = z.toJSONSchema(schema, {
    io: 'input',
    unrepresentable: 'any',
    override: ({ zodSchema, jsonSchema }) => override?.(zodSchema, jsonSchema as Record<string, unknown>),
  }) as Record<string, unknown>;
  return json;
};

/** A row is read stitch by stitch, and stops at the first that is none: its form is told here. */
const withStitches = (items: unknown) => (zod: unknown, json: Record<string, unknown>) => {
  if (zod === RowSchema || zod === RowSchema.in) Object.assign(json, { items });
};
const STITCH = bare(StitchSchema);

/** What is sent in the form of a declaration; those that are named stand under `components`. */
export const schemaOf = (schema: z.ZodType, named: ReadonlyMap<unknown, string>): Record<string, unknown> =>
  bare(schema, (zod, json) => {
    const name = zod === schema ? undefined : named.get(zod);
    if (name === undefined) return withStitches(STITCH)(zod, json);
    // Only the reference is left of it.
    for (const key of Object.keys(json)) json[key] = undefined;
    json.$ref = `#/components/schemas/${name}`;
  });

/**
 * The form of a design's document. Rules that hold between fields (that a repeat leaves something to repeat, that ids differ) are
 * told by reading alone.
 */
export function designSchema(): Record<string, unknown> {
  const schema = bare(DesignSchema, withStitches({ $ref: '#/$defs/stitch' }));
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    $id: `https://cordelina.invalid/design-${FORMAT}.schema.json`,
    title: 'A design',
    description: `Format ${FORMAT}. Documents of formats before it are brought up to date when they are read.`,
    ...schema,
    $defs: { ...(schema.$defs as object | undefined), stitch: STITCH },
  };
}
