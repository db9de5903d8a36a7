import {
  chartName,
  checkPiece,
  findingsIn,
  writeDesign,
  type Design,
  type SectionRead,
} from '@cordelina/core';
import type { Input } from './inputs.js';
import { designOfSections, sectionsOf, type Manner } from './patterns.js';

/** What is found in files: that which cannot be knitted, does not add up, or is not as it is said. */

export interface Found {
  level: 'error' | 'caution' | 'note';
  id: string;
  message: string;
  /** The chart or pattern it is in, where the file holds several; the row, or the cell of a table. */
  in?: string;
  row?: number;
  cell?: string;
}

export interface Checked {
  file: string;
  /** Null where the file could not be read. */
  kind: 'design' | 'pattern' | null;
  findings: Found[];
  /** Whether the words were written, read back and found equal to the charts. */
  proved: boolean;
}

const error = (id: string, message: string): Found => ({ level: 'error', id, message });

/** What is found in a design: in each chart, in its piece, and in the proof of its words. */
function inDesign(design: Design): Pick<Checked, 'findings' | 'proved'> {
  const { charts, piece, settings } = design;
  const several = charts.length > 1;
  const findings = charts.flatMap((chart) =>
    findingsIn(design, chart)
      .filter(({ meant }) => meant === undefined)
      .map(({ id, level, row, message }): Found => ({
        level,
        id,
        message,
        ...(several && { in: chartName(design, chart) }),
        ...(row !== undefined && { row }),
      })),
  );
  if (piece?.parts.length)
    for (const { id, level, message } of checkPiece(design, piece, settings.units))
      findings.push({ level, id, message, in: piece.name || 'the piece' });
  const written = writeDesign(charts, piece, settings);
  // An error of a chart already says why its words are not proved.
  if (!written.checked && !findings.some(({ level }) => level === 'error'))
    findings.push(...written.problems.map(({ id, message }) => error(id, message)));
  return { findings, proved: written.checked };
}

/** What is found in a written pattern: what does not add up, what is asked, and what its charts are told. */
function inPattern(
  name: string,
  sections: readonly SectionRead[],
  manner: Manner,
): Omit<Checked, 'file' | 'kind'> {
  const several = sections.length > 1;
  const findings = sections.flatMap(({ title, reading }, i) =>
    reading.problems.map(({ id, level, row, message, ask }): Found => ({
      // What is asked is not known: nothing is proved of it.
      level: ask ? 'error' : level,
      id,
      message,
      ...(several && { in: title ?? `pattern ${i + 1}` }),
      ...(row !== undefined && { row }),
    })),
  );
  const design = designOfSections(name, sections, manner);
  if (!design) return { findings, proved: false };
  const drawn = inDesign(design);
  // Words that do not add up are not proved by a chart that could be made of them all the same.
  const proved = drawn.proved && !findings.some(({ level }) => level === 'error');
  return { findings: [...findings, ...drawn.findings], proved };
}

export function checked(input: Input, manner: Manner): Checked {
  const { name: file } = input;
  if ('problem' in input)
    return { file, kind: null, findings: [error('cannot-read', input.problem)], proved: false };
  const { read } = input;
  if (read.format === 'words')
    return { file, kind: 'pattern', ...inPattern(file, sectionsOf(read.text, manner), manner) };
  const told =
    (level: Found['level']) =>
    (one: { sheet: string; cell: string; message: string }): Found => ({
      level,
      id: 'table',
      message: one.message,
      in: one.sheet,
      cell: one.cell,
    });
  const table = [...read.faults.map(told('error')), ...read.notes.map(told('note'))];
  if (!read.design) return { file, kind: 'design', findings: table, proved: false };
  const { findings, proved } = inDesign(read.design);
  return { file, kind: 'design', findings: [...table, ...findings], proved };
}

/** One finding as a line: `file:row: level: what is wrong`. */
export function line(file: string, { level, message, row, cell, in: where }: Found): string {
  const place = row ?? cell;
  return `${file}${place === undefined ? '' : `:${place}`}: ${level}: ${where ? `${where}: ` : ''}${message}`;
}
