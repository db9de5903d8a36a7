import { CrossingNameSchema, HeadFields, LIMITS, SchoolSchema, type Design } from '../chart/schema.js';
import { LONGEST } from '../measures/length.js';
import { typedLength } from '../measures/typed.js';
import type { Stitch } from '../stitches/book.js';
import { crossing, crossingId, LARGEST_GROUP } from '../stitches/crossing.js';
import { WORKED, type Worked } from '../stitches/face.js';
import { cutText } from '../values.js';
import { cellAt } from './table.js';
import { isBlank, lineOf, type Block, type Telling } from './table-parts.js';
import { HEADS, KEY_HEADS, LINES, SIZE_HEADS } from './tables.js';

/** What tables say of the design itself, and their key. */

export interface SizeRead {
  id: string;
  name: string;
  measure: number | null;
  ease: number;
  length: number | null;
}

interface Head {
  title: string;
  notes: string;
  school: Design['settings']['school'];
  units: Design['settings']['units'];
  sizes: SizeRead[];
}

export function readHead([block, ...others]: readonly Block[], telling: Telling): Head {
  const head: Head = { title: 'From a table', notes: '', school: 'front-back', units: 'cm', sizes: [] };
  if (!block) return head;
  for (const other of others) telling.note(other, 0, 0, `"${HEADS.design}" stands twice: the first is read.`);
  const title = HeadFields.title.safeParse(cutText(cellAt(block.rows, 0, 1), LIMITS.title));
  if (title.success) head.title = title.data;
  else telling.note(block, 0, 1, `The design has no title here: it is called "${head.title}".`);
  let r = 1;
  for (; r < block.rows.length && lineOf(block.rows[r]) !== SIZE_HEADS[0]; r++) {
    const [line, value] = [lineOf(block.rows[r]), cellAt(block.rows, r, 1)];
    if (line === LINES.school) {
      const school = SchoolSchema.safeParse(value);
      if (school.success) head.school = school.data;
      else
        telling.fault(block, r, 1, `"${value}" is no school of names: ${SchoolSchema.options.join(', ')}.`);
    } else if (line === LINES.units) {
      if (value === 'cm' || value === 'in') head.units = value;
      else telling.fault(block, r, 1, `Units are cm or in, not "${value}".`);
    } else if (line === LINES.notes) {
      const notes = HeadFields.notes.safeParse(block.rows[r]![1] ?? '');
      if (notes.success) head.notes = notes.data;
      else telling.fault(block, r, 1, `Notes have at most ${LIMITS.notes} characters.`);
    } else if (line)
      telling.note(block, r, 0, `"${line.slice(0, 40)}" is no line of a design: it is left aside.`);
  }
  for (r++; r < block.rows.length; r++) {
    if (isBlank(block.rows[r])) continue;
    const size = readSize(block, r, head.units, telling);
    if (size) head.sizes.push(size);
  }
  return head;
}

function readSize(block: Block, r: number, unit: 'cm' | 'in', telling: Telling): SizeRead | null {
  const [name, , , , id] = SIZE_HEADS.map((_, c) => cellAt(block.rows, r, c));
  let isWhole = true;
  const length = (column: number): number | null => {
    const text = cellAt(block.rows, r, column);
    if (!text) return null;
    const isLess = /^[-−]/.test(text);
    const typed = typedLength(isLess ? text.slice(1) : text, unit, { what: 'It', least: 0, most: LONGEST });
    if ('value' in typed) return isLess ? -typed.value : typed.value;
    isWhole = false;
    telling.fault(block, r, column, typed.problem);
    return null;
  };
  const [measure, ease, long] = [length(1), length(2) ?? 0, length(3)];
  return isWhole ? { id: id!, name: name!, measure, ease, length: long } : null;
}

/** What the key says: stitches by word, and the names the designer gave. */
export function readKey(
  blocks: readonly Block[],
  telling: Telling,
): { said: Map<string, Stitch>; names: Record<string, string> } {
  const said = new Map<string, Stitch>();
  const names: Record<string, string> = {};
  for (const block of blocks)
    block.rows.forEach((row, r) => {
      const [word, is, lean, ...rest] = KEY_HEADS.map((_, c) => cellAt(block.rows, r, c));
      if (r === 0 || isBlank(row) || word === KEY_HEADS[0] || is !== 'crossing') return;
      if (said.has(word!.toLowerCase())) return telling.fault(block, r, 0, `The key tells "${word}" twice.`);
      if (!word) return telling.fault(block, r, 0, 'A crossing of the key needs a word.');
      if (lean !== 'left' && lean !== 'right')
        return telling.fault(block, r, 2, `A crossing leans left or right; "${lean}" is neither.`);
      const groups = [3, 4, 5].map((c, i) => groupOf(block, r, c, rest[i]!, telling));
      if (groups.some((group) => group === null)) return;
      const [front, centre, back] = groups as [Worked[], Worked[], Worked[]];
      for (const [c, group] of [
        [3, front],
        [5, back],
      ] as const)
        if (!group.length)
          return telling.fault(block, r, c, 'A crossing needs a stitch in front and one behind at least.');
      const made = crossing(lean, front, back, centre);
      said.set(word.toLowerCase(), made);
      if (rest[3] !== 'yes') return;
      const name = CrossingNameSchema.safeParse(word);
      if (name.success) names[crossingId(made)] = name.data;
      else telling.fault(block, r, 0, name.error.issues[0]!.message);
    });
  return { said, names };
}

function groupOf(block: Block, r: number, column: number, text: string, telling: Telling): Worked[] | null {
  const words = text.split(/[\s,]+/).filter(Boolean);
  const odd = words.find((word) => !WORKED.includes(word as Worked));
  if (odd) {
    telling.fault(
      block,
      r,
      column,
      `The stitches of a group are ${WORKED.join(', ')}; "${odd.slice(0, 20)}" is none.`,
    );
    return null;
  }
  if (words.length > LARGEST_GROUP) {
    telling.fault(block, r, column, `A group holds at most ${LARGEST_GROUP} stitches.`);
    return null;
  }
  return words as Worked[];
}
