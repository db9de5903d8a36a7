import { WAY_CHOICES } from '../ui/Ways.js';
import { plainly, questionsIn, SCHOOL_NOTES, SCHOOLS, type ReadOptions } from '@cordelina/core';
import { useMemo, useRef, type ReactNode } from 'react';
import type { ReadManner } from '../desk/state/folder.js';
import { Button } from '../ui/Button.js';
import { Choose } from '../ui/Field.js';
import { SizeChoice } from '../ui/SizeChoice.js';
import { WordsEditor, type Told, type WordsEditorHandle } from '../ui/WordsEditor.js';
import type { NameAnswered } from '@cordelina/core';
import { Asked } from './Asked.js';
import { ReadAs } from './ReadAs.js';
import type { TextRead } from './useReading.js';

/** How a text is read, as the reader takes it, with what was answered. */
export const optionsOf = (
  { construction, school, size, asides }: ReadManner,
  answers: Readonly<Record<string, string>>,
): ReadOptions => ({ construction, firstRow: 'RS', school: school || undefined, size, asides, answers });

const HINT = `Paste or drop a pattern here, or type one:

Cast on 24 sts.
Row 1 (RS): p2, *k4, p2; rep from * to last 4 sts, k4.
Row 2: work the stitches as they present.
Row 3: p2, *C4F, p2; rep from * to last 4 sts, k4.

C4F: sl 2 to cable needle, hold in front, k2, k2 from cable needle.`;

/** A text at the left; at the right the charts it makes, what is unclear, and what must be asked. */
export function Panes({
  text,
  onText,
  manner,
  onManner,
  read: { sections, isReading, failed, stop, correct },
  answered,
  onAnswer,
  onFiles,
  above,
  children,
}: {
  text: string;
  onText: (text: string) => void;
  manner: ReadManner;
  onManner: (manner: ReadManner) => void;
  read: TextRead;
  answered: readonly NameAnswered[];
  onAnswer: (word: string, id: string | null) => void;
  onFiles: (dropped: DataTransfer) => void;
  /** What stands above what was read. */
  above?: ReactNode;
  /** What is done with it, below. */
  children: ReactNode;
}) {
  const editor = useRef<WordsEditorHandle>(null);
  const told = useMemo<Told[]>(
    () =>
      isReading
        ? []
        : sections.flatMap(({ reading }) =>
            reading.problems.flatMap(({ at, message, level }) => (at ? [{ ...at, message, level }] : [])),
          ),
    [sections, isReading],
  );
  const questions = useMemo(() => questionsIn(sections), [sections]);
  const sizes = sections.map(({ reading }) => reading.sizes).find((s) => s !== null);
  const aside = ({ from, to }: { from: number; to: number }, isAside: boolean) => {
    const said = plainly(text.slice(from, to));
    const others = manner.asides.filter((s) => s !== said);
    onManner({ ...manner, asides: isAside && said ? [...others, said] : others });
  };
  return (
    <div className="flex min-h-0 flex-1 max-md:flex-col">
      <section
        aria-label="Words"
        className="flex min-w-0 basis-[46%] flex-col border-r border-rule max-md:min-h-[45%]"
        onDragOver={(e) => {
          if (e.dataTransfer.types.includes('Files')) e.preventDefault();
        }}
        onDrop={(e) => {
          if (!e.dataTransfer.files.length) return;
          e.preventDefault();
          onFiles(e.dataTransfer);
        }}
      >
        <div
          className={`grid items-end gap-3.5 border-b border-rule px-4 py-3 ${sizes ? 'grid-cols-3' : 'grid-cols-2'}`}
        >
          <Choose
            label="Worked, where the words do not say"
            value={manner.construction}
            onChange={(construction) => onManner({ ...manner, construction })}
            options={WAY_CHOICES}
          />
          <Choose
            label="Names of crossings"
            value={manner.school}
            onChange={(school) => onManner({ ...manner, school })}
            options={[
              ['', 'ask where a name may mean two things'],
              ...SCHOOLS.filter((s) => s !== 'spelled').map(
                (s) => [s, `${SCHOOL_NOTES[s].title}: ${SCHOOL_NOTES[s].example}`] as const,
              ),
            ]}
          />
          {sizes && (
            <SizeChoice
              isAbove
              value={sizes.read}
              onChange={(size) => onManner({ ...manner, size })}
              sizes={sizes.castOns.map((n, id) => ({
                id,
                name: n ? `${id + 1}: on ${n} sts` : `${id + 1} of ${sizes.castOns.length}`,
              }))}
            />
          )}
        </div>
        <div className="min-h-0 flex-1">
          <WordsEditor
            ref={editor}
            value={text}
            onChange={onText}
            told={told}
            label="Written rows"
            hint={HINT}
          />
        </div>
      </section>
      <section aria-label="What was read" className="flex min-w-0 flex-1 flex-col">
        <div className="min-h-0 flex-1 overflow-auto px-5 py-4">
          {above}
          {isReading && text.length > 20_000 && (
            <p role="status" className="mb-3 flex items-center gap-3 text-slate">
              Reading {text.split('\n').length} lines … <Button onClick={stop}>Stop</Button>
            </p>
          )}
          {failed && (
            <p role="alert" className="text-madder">
              The text was not read to its end. Try less of it at a time.
            </p>
          )}
          {!text.trim() && (
            <p className="max-w-[44ch] text-slate">
              The chart appears here as you type. What is unclear is marked under its words, and what may mean
              two things is asked.
            </p>
          )}
          <Asked questions={questions} answered={answered} onAnswer={onAnswer} />
          {sections.map((section) => (
            <ReadAs
              key={section.from}
              section={section}
              isAlone={sections.length === 1}
              isReading={isReading}
              onAside={aside}
              onCorrect={async (r, row) => {
                const made = await correct(section, r, row);
                if (made === null)
                  return 'The words of this row cannot say that here. Mend the words, or lay the chart on the bench.';
                onText(made);
                return null;
              }}
              onShow={(from, to) => editor.current?.show(from, to)}
            />
          ))}
        </div>
        {children}
      </section>
    </div>
  );
}
