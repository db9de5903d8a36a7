import { DesignSchema, FORMAT, LIMITS, SECTIONS, type Design } from './schema.js';

/** A document this program cannot read, with where the fault lies when that is known. */
export class DocumentError extends Error {
  constructor(
    message: string,
    readonly path?: string,
  ) {
    super(message);
  }
}

/**
 * Reads a stored or imported design: brings an older form up to date, then checks it. Format 2 lets rows begin their
 * repeat later, the last pass end part-way, and a chart keep a line of symmetry: what format 1 lacks stands for
 * none of these. Format 3 sets charts out in a piece, which has its section on the sheet; format 4 says how the cloth is
 * shown; format 5 keeps what of the text it was read from was left aside; format 6
 * knows charts both of whose faces count; format 7 bands between rounds; format 8 tags.
 *
 * @throws DocumentError with a sentence for the designer
 */
export function readDesign(value: unknown): Design {
  if (typeof value !== 'object' || value === null || !('format' in value))
    throw new DocumentError('This is not a Cordelina design: it names no format.', 'format');
  const { format } = value;
  if (typeof format !== 'number' || format < 1)
    throw new DocumentError('This is not a Cordelina design: its format is not a number.', 'format');
  if (format > FORMAT)
    throw new DocumentError(
      `This design is of format ${format}; this program reads up to format ${FORMAT}. A newer Cordelina made it.`,
      'format',
    );
  const parsed = DesignSchema.safeParse({
    ...(format < 3 ? withPieceOnSheet(withOwnIds(value)) : withOwnIds(value)),
    format: FORMAT,
  });
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new DocumentError(issue.message, issue.path.map(String).join('.'));
}

/** Designs written before charts had to have ids of their own: a later chart of the same id gets a new one. */
function withOwnIds(value: object): object {
  const { charts } = value as { charts?: unknown };
  if (!Array.isArray(charts) || charts.length > LIMITS.charts) return value;
  const taken = new Set<string>();
  const distinct = charts.map((chart: unknown): unknown => {
    if (typeof chart !== 'object' || chart === null) return chart;
    const id = String('id' in chart ? chart.id : 'chart');
    let own = id;
    for (let n = 2; taken.has(own); n++) own = `${id.slice(0, 60)}-${n}`;
    taken.add(own);
    return own === id ? chart : { ...chart, id: own };
  });
  return { ...value, charts: distinct };
}

/** Designs written before there were pieces print one, once they have it, before their rows. */
function withPieceOnSheet(value: object): object {
  const { sheet } = value as { sheet?: unknown };
  if (typeof sheet !== 'object' || sheet === null || !('order' in sheet)) return value;
  const { order } = sheet;
  if (!Array.isArray(order) || order.length > SECTIONS.length || order.includes('piece')) return value;
  const at = order.indexOf('rows');
  return { ...value, sheet: { ...sheet, order: order.toSpliced(at < 0 ? order.length : at, 0, 'piece') } };
}
