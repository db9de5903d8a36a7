import { answeredIn, fileRead, questionsIn } from '@cordelina/core';
import { useEffect, useMemo, type ReactNode } from 'react';
import { Header } from '../desk/head/Header.js';
import { answersFor, folder, type FolderFile } from '../desk/state/folder.js';
import { studioIn } from '../desk/state/studio.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { Button } from '../ui/Button.js';
import { filesOf } from './folder-files.js';
import { optionsOf, Panes } from './Panes.js';
import { useReading } from './useReading.js';

/** One text of a folder, to be mended and answered by itself. */
export function FolderFilePanes({
  file,
  askedElsewhere,
  back,
  onTake,
}: {
  file: FolderFile;
  /** In how many other texts a name is asked about. */
  askedElsewhere: (word: string) => number;
  back: ReactNode;
  onTake: () => Promise<void>;
}) {
  const dispatch = useAppDispatch();
  const ofFolder = useAppSelector((s) => s.folder.answers);
  const ofHouse = useAppSelector((s) => studioIn(s).answers);
  const { name, text, manner } = file;
  const options = useMemo(
    () => optionsOf(manner, answersFor(file, ofFolder, ofHouse)),
    [manner, file, ofFolder, ofHouse],
  );
  const read = useReading(text, options);
  const { sections, isReading } = read;
  // What is seen here is what the folder's table tells.
  useEffect(() => {
    if (!isReading && sections.length && !file.read)
      dispatch(
        folder.wasRead({ name, text, read: fileRead(name, sections), questions: questionsIn(sections) }),
      );
  }, [isReading, sections, file.read, name, text, dispatch]);
  const answered = useMemo(() => answeredIn(sections, file.answers), [sections, file.answers]);
  const offered = Object.entries(file.answers).filter(([word]) => askedElsewhere(word) > 0);
  const isWhole = sections.length > 0 && sections.every((s) => s.reading.chart);
  return (
    <div className="flex h-full flex-col">
      <Header title={<h1 className="truncate font-serif text-[17px]">{file.read?.title ?? name}</h1>}>
        <div className="ml-auto">{back}</div>
      </Header>
      <Panes
        text={text}
        onText={(changed) => dispatch(folder.textChanged({ name, text: changed }))}
        manner={manner}
        onManner={(changed) => dispatch(folder.mannerChanged({ name, manner: changed }))}
        read={read}
        answered={answered}
        onAnswer={(word, id) => dispatch(folder.answered({ name, word, id }))}
        onFiles={(transfer) =>
          void filesOf(transfer).then(({ files: [first] }) => {
            if (first) dispatch(folder.textChanged({ name, text: first.text }));
          })
        }
        above={
          offered.length > 0 && (
            <div className="mb-4 grid gap-2 border border-rule bg-chalk px-4 py-3 text-[14px]">
              {offered.map(([word, id]) => (
                <p key={word} className="flex flex-wrap items-center gap-3">
                  {word.toUpperCase()} is asked in {askedElsewhere(word)} more{' '}
                  {askedElsewhere(word) === 1 ? 'pattern' : 'patterns'} of the folder.
                  <Button onClick={() => dispatch(folder.answeredForAll({ word, id }))}>
                    It means the same there
                  </Button>
                </p>
              ))}
            </div>
          )
        }
      >
        <div className="flex items-center gap-3 border-t border-rule px-5 py-3">
          <p className="min-w-0 flex-1 truncate font-mono text-[12.5px] text-slate">{name}</p>
          <Button tone="main" disabled={!isWhole || isReading} onClick={() => void onTake()}>
            Lay it on the bench
          </Button>
        </div>
      </Panes>
    </div>
  );
}
