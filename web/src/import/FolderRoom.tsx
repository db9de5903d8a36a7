import {
  fileRead,
  FOLDER_COLUMNS,
  folderLine,
  folderQuestions,
  questionsIn,
  type FileRead,
  type SectionRead,
  answeredIn,
  csvOf,
  answersIn,
  designOf,
  takenFrom,
} from '@cordelina/core';
import { Download, FolderOpen, Files, ChevronLeft } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { Header } from '../desk/head/Header.js';
import { answersFor, folder, type FolderFile } from '../desk/state/folder.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { changeStudio, studioIn, withOne } from '../desk/state/studio.js';
import { Button } from '../ui/Button.js';
import { Check } from '../ui/Field.js';
import { saveFile } from '../ui/save-file.js';
import { makeDesign } from '../desk/designs.js';
import { Stopped, type WorkerLink } from '../workers/link.js';
import { newId } from '../sync/newId.js';
import { wordsLink } from '../workers/links.js';
import type { WordsWorker } from '../workers/words.worker.js';
import { Asked } from './Asked.js';
import { FolderFilePanes } from './FolderFilePanes.js';
import { FolderTable } from './FolderTable.js';
import { filesOf } from './folder-files.js';
import { optionsOf } from './Panes.js';

/** Reads the texts of the folder that have not been read as they stand, one after the other, off the page's own thread. */
function useFolderReading(except: string | null): {
  left: number;
  stop: () => void;
  go: () => void;
  isStopped: boolean;
} {
  const dispatch = useAppDispatch();
  const { files, answers } = useAppSelector((s) => s.folder);
  const house = useAppSelector((s) => studioIn(s).answers);
  const worker = useRef<WorkerLink<WordsWorker>>(null);
  const [isStopped, setIsStopped] = useState(false);
  const next = files.find((f) => !f.read && f.name !== except);
  useEffect(() => () => worker.current?.close(), []);
  useEffect(() => {
    if (!next || isStopped) return;
    let isStale = false;
    worker.current ??= wordsLink();
    const { name, text } = next;
    worker.current
      .run((words) => words.read(text, optionsOf(next.manner, answersFor(next, answers, house))))
      .then((sections) => {
        if (!isStale)
          dispatch(
            folder.wasRead({ name, text, read: fileRead(name, sections), questions: questionsIn(sections) }),
          );
      })
      .catch((error: unknown) => {
        if (error instanceof Stopped || isStale) return;
        const failed: FileRead = {
          ...fileRead(name, []),
          outcome: 'refused',
          told: 'It was not read to its end.',
        };
        dispatch(folder.wasRead({ name, text, read: failed, questions: [] }));
      });
    return () => {
      isStale = true;
    };
  }, [next, isStopped, answers, house, dispatch]);
  return {
    left: files.filter((f) => !f.read && f.name !== except).length,
    isStopped,
    stop: () => {
      worker.current?.stop();
      setIsStopped(true);
    },
    go: () => setIsStopped(false),
  };
}

/** Lays designs of texts on the bench, one after the other; each is read once more, since charts of a whole folder are not kept. */
function useTaking() {
  const dispatch = useAppDispatch();
  const { answers } = useAppSelector((s) => s.folder);
  const { house, answers: ofHouse } = useAppSelector(studioIn);
  const [progress, setProgress] = useState<{ done: number; of: number } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const isGoing = useRef(false);
  const worker = useRef<WorkerLink<WordsWorker>>(null);
  useEffect(
    () => () => {
      isGoing.current = false;
      worker.current?.stop();
    },
    [],
  );
  const take = async (files: readonly FolderFile[]) => {
    isGoing.current = true;
    setFailed(null);
    worker.current ??= wordsLink();
    for (const [done, file] of files.entries()) {
      if (!isGoing.current) break;
      setProgress({ done, of: files.length });
      try {
        const given = answersFor(file, answers, ofHouse);
        const options = optionsOf(file.manner, given);
        const sections: SectionRead[] = await worker.current.run((words) => words.read(file.text, options));
        const school = file.manner.school || house?.settings.school || 'front-back';
        const taken = takenFrom(
          sections,
          answeredIn(sections, answersIn(file.text, given)),
          school,
          newId,
          file.manner.asides,
        );
        const title = file.read?.title.trim() || file.name;
        const id = await dispatch(
          makeDesign(designOf(title, taken, file.manner.school || null, house, newId)),
        );
        if (!id) break;
        dispatch(folder.taken({ name: file.name, design: id }));
      } catch (error) {
        if (error instanceof Stopped) break;
        setFailed(`${file.name} could not be laid on the bench.`);
      }
    }
    setProgress(null);
  };
  return { take, progress, failed, stop: () => (isGoing.current = false) };
}

/** A folder of written patterns: what was read of each, what they ask, and what does not add up. */
export function FolderRoom() {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { files, left } = useAppSelector((s) => s.folder);
  const [open, setOpen] = useState<string | null>(null);
  const [isHouse, setIsHouse] = useState(true);
  // The one that is open is read where it is mended.
  const reading = useFolderReading(open);
  const taking = useTaking();
  const input = useRef<HTMLInputElement>(null);
  const single = useRef<HTMLInputElement>(null);
  const opened = files.find((f) => f.name === open);
  useEffect(() => {
    document.title = 'A folder of patterns – Cordelina';
  }, []);
  const questions = useMemo(() => folderQuestions(files), [files]);
  const choose = async (given: FileList | DataTransfer) => {
    const found = await filesOf(given);
    setOpen(null);
    dispatch(folder.opened(found));
  };
  const answerAll = (word: string, id: string) => {
    dispatch(folder.answeredForAll({ word, id }));
    if (isHouse)
      void dispatch(
        changeStudio(`what ${word} means`, (studio) => ({
          ...studio,
          answers: withOne(studio.answers, word, id),
        })),
      );
  };
  const ready = files.filter((f) => f.read?.outcome === 'read' && !f.design);
  const table = () => {
    const rows = files.flatMap((f) => (f.read ? [folderLine(f.read)] : []));
    const cells = [[...FOLDER_COLUMNS], ...rows].map((row) => row.map(String));
    saveFile(new Blob([csvOf([{ name: 'patterns', cells }])], { type: 'text/csv' }), 'patterns read', 'csv');
  };
  if (opened)
    return (
      <FolderFilePanes
        key={opened.name}
        file={opened}
        askedElsewhere={(word) =>
          files.filter((f) => f !== opened && f.questions.some((q) => q.word === word)).length
        }
        back={
          <Button onClick={() => setOpen(null)}>
            <ChevronLeft size={16} aria-hidden /> The folder
          </Button>
        }
        onTake={async () => {
          await taking.take([opened]);
          setOpen(null);
        }}
      />
    );
  return (
    <div
      className="flex h-full flex-col"
      onDragOver={(e) => {
        if (e.dataTransfer.types.includes('Files')) e.preventDefault();
      }}
      onDrop={(e) => {
        e.preventDefault();
        if (e.dataTransfer.files.length) void choose(e.dataTransfer);
      }}
    >
      <Header
        title={
          <span className="flex items-center gap-2 font-serif text-[17px]">
            <Link to="/import" className="hover:underline max-md:sr-only">
              Import
            </Link>
            <span aria-hidden className="text-slate max-md:hidden">
              ›
            </span>
            <h1>A folder of patterns</h1>
          </span>
        }
      >
        <div className="ml-auto flex gap-2 max-md:gap-1">
          <Button onClick={() => single.current?.click()}>
            <Files size={16} aria-hidden /> <span className="max-md:sr-only">Choose texts</span>
          </Button>
          <Button onClick={() => input.current?.click()}>
            <FolderOpen size={16} aria-hidden /> <span className="max-md:sr-only">Open a folder</span>
          </Button>
        </div>
        {/* A folder is chosen by an attribute that has no type. */}
        <input
          ref={input}
          type="file"
          multiple
          className="hidden"
          aria-label="A folder of patterns"
          {...{ webkitdirectory: '' }}
          onChange={(e) => {
            if (e.target.files?.length) void choose(e.target.files);
            e.target.value = '';
          }}
        />
        <input
          ref={single}
          type="file"
          multiple
          accept=".txt,.text,.md,text/plain"
          className="hidden"
          aria-label="Texts of patterns"
          onChange={(e) => {
            if (e.target.files?.length) void choose(e.target.files);
            e.target.value = '';
          }}
        />
      </Header>
      <main tabIndex={-1} className="outline-none min-h-0 flex-1 overflow-auto px-6 py-5 max-md:px-3">
        <div
          className={`mx-auto grid gap-x-8 gap-y-5 ${questions.length ? 'max-w-[1500px] lg:grid-cols-[minmax(300px,380px)_minmax(0,1fr)]' : 'max-w-[1240px]'}`}
        >
          {!files.length && (
            <p className="max-w-[56ch] text-slate">
              Open a folder of written patterns, or drop one here. Each text is read on its own; what a name
              means is asked once for all of them, and nothing is taken until you say so.
            </p>
          )}
          {left.length > 0 && (
            <details className="col-span-full text-[14px]">
              <summary className="cursor-pointer text-weld select-none">
                {left.length} {left.length === 1 ? 'file is' : 'files are'} not read
              </summary>
              <ul className="mt-1 grid gap-0.5 text-slate">
                {left.slice(0, 100).map(({ name, why }) => (
                  <li key={name}>
                    <span className="font-mono text-[13px]">{name}</span>: {why}
                  </li>
                ))}
              </ul>
            </details>
          )}
          {questions.length > 0 && (
            <section aria-label="Asked by the folder">
              <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-1">
                <h2 className="text-[18px] font-semibold">What the patterns ask</h2>
                <Check
                  checked={isHouse}
                  onChange={setIsHouse}
                  label="Keep the answers for every text to come"
                />
              </div>
              <p className="mb-3 text-[14px] text-slate">
                An answer here holds for every pattern of the folder that asks it. Where one means something
                else by the name, open it and answer it there.
              </p>
              <Asked
                questions={questions.map((q) => q.question)}
                answered={[]}
                askedIn={(word) => questions.find((q) => q.question.word === word)?.files.length ?? 0}
                onAnswer={(word, id) => id && answerAll(word, id)}
              />
            </section>
          )}
          {files.length > 0 && (
            <FolderTable files={files} onOpen={setOpen} onDesign={(id) => void navigate(`/designs/${id}`)} />
          )}
        </div>
      </main>
      {files.length > 0 && (
        <footer className="flex flex-wrap items-center gap-3 border-t border-rule px-5 py-3">
          <p role="status" className="flex items-center gap-3 text-[14px] text-slate">
            {taking.progress ? (
              <>
                Laid on the bench: {taking.progress.done} of {taking.progress.of}
                <Button onClick={taking.stop}>Stop</Button>
              </>
            ) : reading.left > 0 ? (
              <>
                Read: {files.length - reading.left} of {files.length}
                <Button onClick={reading.isStopped ? reading.go : reading.stop}>
                  {reading.isStopped ? 'Go on' : 'Stop'}
                </Button>
              </>
            ) : (
              `${files.length} ${files.length === 1 ? 'text' : 'texts'} read`
            )}
          </p>
          {taking.failed && (
            <p role="alert" className="text-[14px] text-madder">
              {taking.failed}
            </p>
          )}
          <Button className="ml-auto" disabled={reading.left === files.length} onClick={table}>
            <Download size={16} aria-hidden /> The table
          </Button>
          <Button
            tone="main"
            disabled={!ready.length || taking.progress !== null || reading.left > 0}
            onClick={() => void taking.take(ready)}
          >
            {ready.length
              ? `Lay the ${ready.length} that are read on the bench`
              : 'Lay those that are read on the bench'}
          </Button>
        </footer>
      )}
    </div>
  );
}
