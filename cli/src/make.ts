import {
  chartName,
  fileOf,
  formatOf,
  leftOut,
  pictureOf,
  PRINT_INKS,
  sheetOf,
  styleOf,
  svgFile,
  withoutEnding,
  writeDesign,
  type Design,
  type FormatId,
} from '@cordelina/core';
import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Input } from './inputs.js';
import { STDIN } from './inputs.js';
import { Misuse } from './usage.js';
import { designOfSections, sectionsOf, type Manner } from './patterns.js';

/** Files made of files. */

export type Target = FormatId | 'svg' | 'pdf';

/** The design of an input, or why there is none. */
export function designIn(input: Input, manner: Manner): Design | string {
  if ('problem' in input) return input.problem;
  const { read } = input;
  if (read.format !== 'words') {
    const [first] = read.faults;
    return read.design ?? (first ? `:${first.cell}: ${first.message}` : 'It holds no design.');
  }
  const sections = sectionsOf(read.text, manner);
  const problem = sections
    .flatMap(({ reading }) => reading.problems)
    .find(({ level, ask }) => ask ?? level === 'error');
  if (problem) return `${problem.row === undefined ? '' : `:${problem.row}: `}${problem.message}`;
  return designOfSections(input.name, sections, manner) ?? 'It holds no pattern.';
}

/** The charts of a design as SVG, each with the name of its own file where there are several. */
function drawings(design: Design): { name: string; text: string }[] {
  const style = styleOf(design.settings);
  return design.charts.map((chart) => ({
    name: design.charts.length > 1 ? ` ${chartName(design, chart)}` : '',
    text: svgFile(
      pictureOf(chart, style, PRINT_INKS),
      { inks: PRINT_INKS, isNamed: true },
      {
        title: `Chart of ${design.title}`,
        cell: 5,
      },
    ),
  }));
}

async function pdf(design: Design): Promise<{ bytes: Uint8Array; missing: string }> {
  const { pdfOf } = await import('@cordelina/server/pdf');
  return pdfOf(design, sheetOf(design, writeDesign(design.charts, design.piece, design.settings), true));
}

export interface Made {
  files: { name: string; ending: string; content: string | Uint8Array }[];
  /** What of the design is not in them, to be said. */
  left: string[];
}

/** A design as files of a form. */
export async function made(design: Design, to: Target): Promise<Made> {
  if (to === 'svg')
    return {
      files: drawings(design).map(({ name, text }) => ({ name, ending: 'svg', content: text })),
      left: [],
    };
  if (to === 'pdf') {
    const { bytes, missing } = await pdf(design);
    return {
      files: [{ name: '', ending: 'pdf', content: bytes }],
      left: missing ? [`these characters, which are in none of its fonts: ${missing}`] : [],
    };
  }
  const content = await fileOf(design, to);
  return { files: [{ name: '', ending: formatOf(to)!.ending, content }], left: leftOut(design, to) };
}

/**
 * Lays files down in a folder, under the name of what they were made of.
 *
 * @param isForced whether what lies there already is written over
 * @throws Misuse where a file lies there that is not to be written over
 */
export async function lay(
  folder: string,
  from: string,
  { files }: Made,
  taken: Set<string>,
  isForced: boolean,
): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const stem = from === STDIN ? 'standard-input' : withoutEnding(from);
  const names: string[] = [];
  for (const { name, ending, content } of files) {
    const plain = `${stem}${name}`.replace(/[^\p{L}\p{N} ._()-]+/gu, '-');
    let own = `${plain}.${ending}`;
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${plain}-${n}.${ending}`;
    taken.add(own.toLowerCase());
    const file = path.join(folder, own);
    try {
      await writeFile(file, content, { flag: isForced ? 'w' : 'wx' });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      throw new Misuse(`${file} is there already. Name another folder, or say --force.`);
    }
    names.push(file);
  }
  return names;
}
