import {
  EditError,
  SCHOOL_NOTES,
  SCHOOLS,
  type ReadOptions,
  type School,
  type SectionRead,
} from '@cordelina/core';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Header } from '../shell/Header.js';
import { useAppDispatch, useAppSelector } from '../store/index.js';
import { changeStudio } from '../store/studio.js';
import { Button } from '../ui/Button.js';
import { Choose, Field, Input } from '../ui/Field.js';
import { WordsEditor, type Told, type WordsEditorHandle } from '../ui/WordsEditor.js';
import { makeDesign } from '../workroom/actions.js';
import { answeredIn, designOf, putInto, takenFrom } from './accept.js';
import { Asked } from './Asked.js';
import { ReadAs } from './ReadAs.js';
import { useReading } from './useReading.js';

const DRAFT = 'cordelina-import';

/** What was last pasted, so that leaving the room loses nothing. */
function draft(): string {
  try {
    return localStorage.getItem(DRAFT) ?? '';
  } catch {
    return '';
  }
}

const HINT = `Paste or drop a pattern here, or type one:

Cast on 24 sts.
Row 1 (RS): p2, *k4, p2; rep from * to last 4 sts, k4.
Row 2: work the stitches as they present.
Row 3: p2, *C4F, p2; rep from * to last 4 sts, k4.

C4F: sl 2 to cable needle, hold in front, k2, k2 from cable needle.`;

const isOpen = ({ reading }: SectionRead) => reading.problems.some((p) => p.level === 'error');

/** A text at the left; at the right the chart it makes, what is unclear, and what must be asked. */
export function ImportRoom() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const into = params.get('design');
  const [text, setText] = useState(draft);
  const [title, setTitle] = useState<string | null>(null);
  const [construction, setConstruction] = useState<'flat' | 'round'>('flat');
  const [school, setSchool] = useState<School | ''>('');
  const [refused, setRefused] = useState<string | null>(null);
  const house = useAppSelector((s) => s.studio.studio.house);
  const answers = useAppSelector((s) => s.studio.studio.answers);
  const options = useMemo<ReadOptions>(
    () => ({ construction, firstRow: 'RS', school: school || undefined, answers }),
    [construction, school, answers],
  );
  const { sections, isReading, failed, stop, correct } = useReading(text, options);
  const editor = useRef<WordsEditorHandle>(null);

  useEffect(() => {
    document.title = 'Import – Cordelina';
  }, []);
  useEffect(() => {
    try {
      localStorage.setItem(DRAFT, text);
    } catch {
      // It holds until the page is left.
    }
  }, [text]);

  const told = useMemo<Told[]>(
    () =>
      isReading
        ? []
        : sections.flatMap(({ reading }) =>
            reading.problems.flatMap(({ at, message, level }) => (at ? [{ ...at, message, level }] : [])),
          ),
    [sections, isReading],
  );
  const questions = useMemo(() => {
    const asked = sections.flatMap(({ reading }) => reading.questions);
    return asked.filter((q, i) => asked.findIndex((other) => other.word === q.word) === i);
  }, [sections]);
  const answered = useMemo(() => {
    const lower = text.toLowerCase();
    return Object.fromEntries(
      Object.entries(answers).filter(([word]) => lower.includes(word.replace(/ \(ws\)$/, ''))),
    );
  }, [answers, text]);
  const answer = useCallback(
    (word: string, id: string | null) => {
      void dispatch(changeStudio({ answers: { [word]: id } }));
    },
    [dispatch],
  );

  const charted = sections.filter((s) => s.reading.chart);
  // A text is taken whole: a pattern of it that has no chart yet would be lost without a word.
  const waiting = sections.find((s) => !s.reading.chart);
  const isReady = charted.length > 0 && !waiting && !isReading;
  const asked = useMemo(() => answeredIn(charted, answered), [charted, answered]);
  const isFaulty = sections.some(isOpen);
  const named = title ?? sections[0]?.title ?? '';
  const take = async (target: string | null) => {
    setRefused(null);
    const taken = takenFrom(charted, asked, school || house?.settings.school || 'front-back');
    try {
      if (target) {
        if (!(await dispatch(putInto(target, taken)))) return;
        void navigate(`/designs/${target}`);
      } else {
        if (!named.trim()) return setRefused('A design needs a title.');
        const id = await dispatch(makeDesign(designOf(named.trim(), taken, school || null, house)));
        if (!id) return;
        void navigate(`/designs/${id}`);
      }
      setText('');
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      setRefused(error.message);
    }
  };

  const dropped = async (file: File) => {
    if (file.size > 1_000_000)
      return setRefused('That file is longer than a pattern: at most a million characters are read.');
    setText(await file.text());
  };

  return (
    <div className="flex h-full flex-col">
      <Header title={<span className="font-serif text-[17px]">Import</span>} />
      <div className="flex min-h-0 flex-1 max-md:flex-col">
        <section
          aria-label="Words"
          className="flex min-w-0 basis-[46%] flex-col border-r border-rule"
          onDragOver={(e) => {
            if (e.dataTransfer.types.includes('Files')) e.preventDefault();
          }}
          onDrop={(e) => {
            const [file] = e.dataTransfer.files;
            if (!file) return;
            e.preventDefault();
            void dropped(file);
          }}
        >
          <div className="grid grid-cols-2 gap-3.5 border-b border-rule px-4 py-3">
            <Choose
              label="Worked, where the words do not say"
              value={construction}
              onChange={setConstruction}
              options={[
                ['flat', 'flat, back and forth'],
                ['round', 'in the round'],
              ]}
            />
            <Choose
              label="Names of crossings"
              value={school}
              onChange={setSchool}
              options={[
                ['', 'ask where a name may mean two things'],
                ...SCHOOLS.filter((s) => s !== 'spelled').map(
                  (s) => [s, `${SCHOOL_NOTES[s].title}: ${SCHOOL_NOTES[s].example}`] as const,
                ),
              ]}
            />
          </div>
          <div className="min-h-0 flex-1">
            <WordsEditor
              ref={editor}
              value={text}
              onChange={setText}
              told={told}
              label="Written rows"
              hint={HINT}
            />
          </div>
        </section>
        <section aria-label="What was read" className="flex min-w-0 flex-1 flex-col">
          <div className="min-h-0 flex-1 overflow-auto px-5 py-4">
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
                The chart appears here as you type. What is unclear is marked under its words, and what may
                mean two things is asked.
              </p>
            )}
            <Asked questions={questions} answered={asked} onAnswer={answer} />
            {sections.map((section) => (
              <ReadAs
                key={section.from}
                section={section}
                isAlone={sections.length === 1}
                isReading={isReading}
                onCorrect={async (r, row) => {
                  const made = await correct(section, r, row);
                  if (made === null)
                    return 'The words of this row cannot say that here. Mend the words, or lay the chart on the bench.';
                  setText(made);
                  return null;
                }}
                onShow={(from, to) => editor.current?.show(from, to)}
              />
            ))}
          </div>
          <form
            className="flex items-center gap-3 border-t border-rule px-5 py-3"
            onSubmit={(e) => {
              e.preventDefault();
              void take(into);
            }}
          >
            <div className="min-w-0 flex-1">
              {!into && (
                <Field label="Title" error={refused ?? undefined}>
                  {(props) => (
                    <Input
                      {...props}
                      value={named}
                      onChange={(e) => setTitle(e.target.value)}
                      maxLength={120}
                    />
                  )}
                </Field>
              )}
              {into && refused && (
                <p role="alert" className="text-madder">
                  {refused}
                </p>
              )}
              {waiting && charted.length > 0 ? (
                <p className="text-[13px] text-slate">
                  {waiting.title ?? 'One pattern'} has no chart yet; the text is taken as a whole.
                </p>
              ) : (
                isFaulty &&
                charted.length > 0 && (
                  <p className="text-[13px] text-slate">Rows that could not be read stand as plain ground.</p>
                )
              )}
            </div>
            {into && (
              <Button disabled={!isReady} onClick={() => void take(null)}>
                As a new design
              </Button>
            )}
            <Button tone={isFaulty ? 'plain' : 'main'} type="submit" disabled={!isReady}>
              {into ? 'Put it into the design' : isFaulty ? 'Take it with its faults' : 'Lay it on the bench'}
            </Button>
          </form>
        </section>
      </div>
    </div>
  );
}
