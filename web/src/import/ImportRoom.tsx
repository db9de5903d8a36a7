import {
  EditError,
  type SectionRead,
  LIMITS,
  answeredIn,
  answersIn,
  designOf,
  takenFrom,
} from '@cordelina/core';
import { FolderOpen } from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useLocation, useNavigate, useSearchParams } from 'react-router';
import { z } from 'zod';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { Header } from '../desk/head/Header.js';
import { folder, PLAIN_MANNER, type ReadManner } from '../desk/state/folder.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { boxOf } from '../sync/outbox.js';
import { openOutbox } from '../sync/post.js';
import { changeStudio, studioIn, withOne, without } from '../desk/state/studio.js';
import { Button } from '../ui/Button.js';
import { Field, Input } from '../ui/Field.js';
import { makeDesign } from '../desk/designs.js';
import { newId } from '../sync/newId.js';
import { putInto } from './accept.js';
import { filesOf } from './folder-files.js';
import { optionsOf, Panes } from './Panes.js';
import { useReading } from './useReading.js';

const DRAFT = 'cordelina-import';
const SAID = 'cordelina-import-asides';

/** What was kept of the room, so that leaving it loses nothing; null where a browser keeps nothing. */
function kept(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}
function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // It holds until the page is left.
  }
}

/** What was said of sentences of the text that is kept. */
function keptManner(): ReadManner {
  try {
    const asides = z
      .array(z.string())
      .max(200)
      .safeParse(JSON.parse(kept(SAID) ?? '[]'));
    return { ...PLAIN_MANNER, asides: asides.success ? asides.data : [] };
  } catch {
    return PLAIN_MANNER;
  }
}

const isOpen = ({ reading }: SectionRead) => reading.problems.some((p) => p.level === 'error');

/** A text at the left; at the right the chart it makes, what is unclear, and what must be asked. */
export function ImportRoom() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const [params] = useSearchParams();
  const into = params.get('design');
  // Words that were brought along, as a file that was dropped, come before what was left here.
  const brought = z.object({ words: z.string() }).safeParse(useLocation().state).data?.words;
  const [text, setText] = useState(() => brought ?? kept(DRAFT) ?? '');
  const [title, setTitle] = useState<string | null>(null);
  const [manner, setManner] = useState(keptManner);
  const [refused, setRefused] = useState<string | null>(null);
  const house = useAppSelector((s) => studioIn(s).house);
  const answers = useAppSelector((s) => studioIn(s).answers);
  // What was left aside in the design before is left aside again.
  const known = useAppSelector((s) => boxOf(s.outbox, 'design', into)?.document.asides);
  const options = useMemo(
    () => optionsOf({ ...manner, asides: [...(known ?? []), ...manner.asides] }, answers),
    [manner, known, answers],
  );
  useEffect(() => {
    if (into) void dispatch(openOutbox('design', into));
  }, [into, dispatch]);
  const read = useReading(text, options);
  const { sections, isReading } = read;

  useEffect(() => {
    document.title = 'Import – Cordelina';
  }, []);
  useEffect(() => keep(DRAFT, text), [text]);
  useEffect(() => keep(SAID, JSON.stringify(manner.asides)), [manner.asides]);

  const answered = useMemo(() => answersIn(text, answers), [answers, text]);
  const answer = useCallback(
    (word: string, id: string | null) => {
      void dispatch(
        changeStudio(`what ${word} means`, (studio) => ({
          ...studio,
          answers: id === null ? without(studio.answers, word) : withOne(studio.answers, word, id),
        })),
      );
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
    const taken = takenFrom(
      charted,
      asked,
      manner.school || house?.settings.school || 'front-back',
      newId,
      manner.asides,
    );
    try {
      if (target) {
        if (!(await dispatch(putInto(target, taken)))) return;
        void navigate(`/designs/${target}`);
      } else {
        if (!named.trim()) return setRefused('A design needs a title.');
        const id = await dispatch(
          makeDesign(designOf(named.trim(), taken, manner.school || null, house, newId)),
        );
        if (!id) return;
        void navigate(`/designs/${id}`);
      }
      setText('');
      setManner(PLAIN_MANNER);
    } catch (error) {
      if (!(error instanceof EditError)) throw error;
      setRefused(error.message);
    }
  };

  const dropped = async (transfer: DataTransfer) => {
    const { files, left } = await filesOf(transfer);
    setRefused(left[0] ? `${left[0].name}: ${left[0].why}` : null);
    if (files.length > 1) {
      dispatch(folder.opened({ files, left }));
      void navigate('/import/folder');
    } else if (files[0]) {
      setText(files[0].text);
      setManner({ ...manner, asides: [], size: 0 });
    }
  };

  useOffer(
    'Import',
    isReady ? [command('lay-down', 'Lay what was read on the bench', 'Import', () => void take(into))] : [],
  );

  return (
    <div className="flex h-full flex-col">
      <Header title={<h1 className="font-serif text-[17px]">Import</h1>}>
        <Button className="ml-auto" onClick={() => void navigate('/import/folder')}>
          <FolderOpen size={16} aria-hidden /> A folder of patterns
        </Button>
      </Header>
      <Panes
        text={text}
        onText={setText}
        manner={manner}
        onManner={setManner}
        read={read}
        answered={asked}
        onAnswer={answer}
        onFiles={(transfer) => void dropped(transfer)}
      >
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
                    maxLength={LIMITS.title}
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
      </Panes>
    </div>
  );
}
