import {
  back,
  forward,
  isCrossing,
  inDesign,
  isDone,
  onNeedles,
  placeWithin,
  rowBack,
  rowForward,
  rowInHands,
  sideText,
  titleOf,
  wordPieces,
  type At,
  type Edition,
  type InDesign,
  lengthOfCourse,
  type BedsJob,
  type Course,
  type Job,
  type Knitting,
  type Settings,
  type WordPiece,
} from '@cordelina/core';
import {
  ArrowLeft,
  ChevronLeft,
  ChevronRight,
  ChevronsLeft,
  ChevronsRight,
  Menu,
  NotebookPen,
  Volume2,
} from 'lucide-react';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { NotFound } from '../desk/head/NotFound.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { goTo, needles, openKnitting } from '../desk/state/needles.js';
import { boxOf, type Outbox } from '../sync/outbox.js';
import { Button, IconButton } from '../ui/Button.js';
import { ButtonMenu } from '../ui/Menu.js';
import { usePaneSize } from '../ui/usePaneSize.js';
import { useProof } from '../workers/useProof.js';
import { Changed } from './Changed.js';
import { CrossingHelp } from './CrossingHelp.js';
import { ownDevice, shownDevice } from './device.js';
import { LogSheet } from './LogSheet.js';
import { NoteSheet } from './NoteSheet.js';
import { Rests } from './Rests.js';
import { Strip } from './Strip.js';
import { UndoSheet } from './UndoSheet.js';
import { inHer, useJob } from './useJob.js';
import { useAwake, useGoingKeys, useHeadset, useSpeech } from './useHands.js';
import { WhichRowSheet } from './WhichRowSheet.js';

/** Sizes of the words, in pixels. */
const SIZES = [18, 24, 32, 42, 56] as const;

type Sheet = 'undo' | 'which' | 'note' | 'log' | null;

/** One row at a time, for hands that hold needles. */
export function KnitPage() {
  const { id = '' } = useParams();
  const dispatch = useAppDispatch();
  const box = useAppSelector((s) => boxOf(s.outbox, 'knitting', id));
  const edition = useAppSelector((s) => boxOf(s.outbox, 'edition', box?.document.edition ?? null)?.document);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    dispatch(openKnitting(id)).catch((error: unknown) =>
      setFailure(error instanceof Error ? error.message : 'It could not be opened.'),
    );
    return () => void dispatch(needles.taken([]));
  }, [dispatch, id]);
  // Another edition is opened where she goes over to one.
  const wanted = box?.document.edition;
  useEffect(() => {
    if (wanted) void dispatch(openKnitting(id)).catch(() => undefined);
  }, [dispatch, id, wanted]);
  const job = useJob(edition, box?.document);
  const { theme } = useAppSelector((s) => s.habits.needles);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
    return () => void delete document.documentElement.dataset.theme;
  }, [theme]);

  if (failure && !(box && edition)) return <NotFound message={failure} />;
  if (!box || !edition || job === null) return <p className="m-auto p-8 text-slate">Opening …</p>;
  if (typeof job === 'string')
    return (
      <div className="grid gap-3 p-6">
        <p role="alert">{job}</p>
        <Link className="underline" to={`/designs/${box.document.design}/needles`}>
          Back to the design
        </Link>
      </div>
    );
  return <Needles key={`${id} ${edition.id}`} box={box} edition={edition} job={job} />;
}

/** Where she is on this device: as she went here, until she is told that she went on elsewhere and follows. */
function useHere(box: Outbox<'knitting'>, job: Course, device: string) {
  const { place } = box.document;
  const [own, setOwn] = useState(place);
  // What is done on this device is where she is on it.
  if (place.device === device && place.at !== own.at) setOwn(place);
  const isElsewhere = place.device !== device && place.at > own.at;
  const { row, group } = isElsewhere ? own : place;
  const { at, wasBeyond } = useMemo(() => placeWithin(job, { row, group }), [job, row, group]);
  return { at, wasBeyond, elsewhere: isElsewhere ? place : null, follow: () => setOwn(place) };
}

function Needles({ box, edition, job }: { box: Outbox<'knitting'>; edition: Edition; job: Course }) {
  const dispatch = useAppDispatch();
  const knitting = box.document;
  const { id } = knitting;
  const { needles: looks, device: named } = useAppSelector((s) => s.habits);
  const message = useAppSelector((s) => s.needles.message);
  const device = ownDevice(named);
  const { at, wasBeyond, elsewhere, follow } = useHere(box, job, device);
  const [sheet, setSheet] = useState<Sheet>(null);
  const move = useCallback((to: At) => dispatch(goTo(id, device, to)), [dispatch, id, device]);
  const go = useMemo(
    () => ({
      forward: () => move(forward(job, at)),
      back: () => move(back(job, at)),
      rowForward: () => move(rowForward(job, at)),
      rowBack: () => move(rowBack(job, at)),
    }),
    [move, job, at],
  );
  useGoingKeys(go);
  useHeadset(go.forward, go.back);
  const isAwake = useAwake(looks.awake);
  const done = isDone(job, at);
  const row = Math.min(at.row, lengthOfCourse(job) - 1);
  const {
    text: next,
    said,
    isLast,
  } = useMemo(() => nextIn(job, row, done ? null : at.group), [job, row, at.group, done]);
  useSpeech(looks.speaks ? said : null);
  const beds = 'readings' in job;

  const look = useCallback(
    (patch: Partial<typeof looks>) => dispatch(habits.changed({ needles: { ...looks, ...patch } })),
    [dispatch, looks],
  );
  useOffer(
    'Needles',
    useMemo(
      () => [
        command('needles-forward', 'Go on by a group', 'At the needles', go.forward, 'Space'),
        command('needles-back', 'Go back by a group', 'At the needles', go.back, '←'),
        command('needles-row', 'Go on by a row', 'At the needles', go.rowForward, '↓'),
        command('needles-row-back', 'Go back by a row', 'At the needles', go.rowBack, '↑'),
        command('needles-note', 'Write down what you notice', 'At the needles', () => setSheet('note'), 'N'),
        // A machine's list has a counter, and no needle to take back from.
        ...(beds
          ? []
          : [
              command(
                'needles-undo',
                'Take work back, or let stitches down',
                'At the needles',
                () => setSheet('undo'),
                'U',
              ),
              command('needles-which', 'Which row am I on?', 'At the needles', () => setSheet('which'), 'W'),
              command('needles-log', 'Rows, hours and skeins', 'At the needles', () => setSheet('log'), 'L'),
            ]),
      ],
      [go, beds],
    ),
  );
  const settings = useMemo(() => inHer(edition.document, knitting.hand).settings, [edition, knitting.hand]);
  const place: InDesign = 'readings' in job ? atBeds(job, row, knitting) : inDesign(job, at);

  return (
    <div className="flex h-full min-h-0 flex-col bg-fleece text-peat">
      <Head box={box} edition={edition} onSheet={setSheet} look={look} isAwake={isAwake} beds={beds} />
      {!('readings' in job) && <Changed box={box} edition={edition} job={job} at={at} device={device} />}
      {elsewhere && (
        <div
          role="alert"
          className="flex flex-wrap items-center gap-2 border-b border-rule bg-wash px-3 py-2"
        >
          <span className="mr-auto">
            Moved on to {placeText(job, elsewhere)} on the {shownDevice(elsewhere.device)}.
          </span>
          <Button tone="main" className="min-h-11" onClick={follow}>
            Go there
          </Button>
          <Button className="min-h-11" onClick={() => move(at)}>
            Stay
          </Button>
        </div>
      )}
      {wasBeyond && !elsewhere && (
        <p role="status" className="border-b border-rule bg-wash px-3 py-2 text-[14px]">
          The pattern has no such place any more: this is the nearest it has.
        </p>
      )}
      {message && (
        <p
          role="status"
          className="flex items-center gap-2 border-b border-rule bg-wash px-3 py-2 text-[14px]"
        >
          <span className="mr-auto">{message}</span>
          <Button onClick={() => dispatch(needles.told(null))}>Good</Button>
        </p>
      )}
      <main className="min-h-0 flex-1 overflow-auto px-3 pb-3" data-testid="needles">
        <div className="mx-auto max-w-[860px]">
          {'readings' in job ? (
            <AtBeds job={job} at={at} done={done} size={SIZES[looks.size]!} />
          ) : (
            <OneRow
              job={job}
              at={at}
              done={done}
              settings={settings}
              size={SIZES[looks.size]!}
              facing={looks.strip === 'facing'}
            />
          )}
          {done && (
            <p className="mt-6 text-[22px]">
              All {beds ? `${job.counts} rows are knit` : `${job.rows.length} rows are worked`}.
            </p>
          )}
        </div>
      </main>
      <Rests knitting={knitting} />
      <Going go={go} group={next} isLast={isLast} thumb={looks.thumb} done={done} beds={beds} />
      {sheet === 'undo' && !beds && (
        <UndoSheet job={job} at={at} onGo={move} onClose={() => setSheet(null)} />
      )}
      {sheet === 'which' && !beds && (
        <WhichRowSheet
          job={job}
          settings={settings}
          onGo={(n) => move({ row: n, group: 0 })}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === 'note' && (
        <NoteSheet
          place={place}
          said={beds ? null : rowInHands(job, row).makes}
          knitting={knitting}
          onClose={() => setSheet(null)}
        />
      )}
      {sheet === 'log' && !beds && (
        <LogSheet job={job} at={at} knitting={knitting} edition={edition} onClose={() => setSheet(null)} />
      )}
    </div>
  );
}

/** What comes next in a row: its words, how they are read aloud, and whether they are its last. */
function nextIn(
  job: Course,
  row: number,
  group: number | null,
): { text: string | null; said: string | null; isLast: boolean } {
  if (group === null) return { text: null, said: null, isLast: false };
  if ('readings' in job) {
    const { counter, does } = job.readings[row]!;
    const text = does[group] ?? null;
    return {
      text,
      said: text && `${group === 0 ? `Counter ${counter}. ` : ''}${text}`,
      isLast: group === does.length - 1,
    };
  }
  const { groups } = rowInHands(job, row);
  const one = groups[group];
  const said = one ? `${group === 0 ? `${titleOf(job, row).text}. ` : ''}${one.said}` : null;
  return { text: one?.text ?? null, said, isLast: group === groups.length - 1 };
}

/** Where a reading of the counter is in the design: at the row that is knit next. */
const atBeds = ({ readings }: BedsJob, row: number, { of }: Knitting): InDesign => ({
  where: `Counter ${readings[row]!.counter}`,
  chart: 'machine' in of ? of.machine : null,
  row: null,
  column: null,
});

/** What is done at a reading of the row counter. */
function AtBeds({ job, at, done, size }: { job: BedsJob; at: At; done: boolean; size: number }) {
  const n = Math.min(at.row, job.readings.length - 1);
  const { counter, does } = job.readings[n]!;
  const next = job.readings[n + 1];
  return (
    <>
      <div className="pt-2" aria-live="polite" data-testid="row-head">
        <h2 className="text-[30px] leading-tight font-semibold">{done ? 'Done' : `Counter ${counter}`}</h2>
        <p className="text-[15px] text-slate">
          of {job.counts} rows · reading {n + 1} of {job.readings.length}
        </p>
      </div>
      {!done && (
        <ol className="mt-3 grid gap-2 font-mono leading-snug" style={{ fontSize: size }} data-testid="words">
          {does.map((text, i) => (
            <li key={i}>
              {i === at.group ? (
                <mark aria-current="step" className="rounded-sm bg-peat px-1 text-chalk">
                  {text}
                </mark>
              ) : (
                <span className={i < at.group ? 'text-slate line-through' : ''}>{text}</span>
              )}
            </li>
          ))}
        </ol>
      )}
      {!done && next && (
        <p className="mt-3 text-[15px] text-slate" data-testid="next">
          then, at counter {next.counter}: {next.does[0]}
        </p>
      )}
    </>
  );
}

/** A row of knitting by hand: its head, strip, words, what comes next, counts, and its crossing. */
function OneRow({
  job,
  at,
  done,
  settings,
  size,
  facing,
}: {
  job: Job;
  at: At;
  done: boolean;
  settings: Settings;
  size: number;
  facing: boolean;
}) {
  const n = Math.min(at.row, job.rows.length - 1);
  const hands = rowInHands(job, n);
  const group = done ? undefined : hands.groups[at.group];
  const crossing = group?.stitches.find(isCrossing);
  const { counts, next } = useAhead(job, at, done);
  return (
    <>
      <RowHead job={job} at={at} done={done} />
      {!done && (
        <>
          <StripPane
            job={job}
            row={job.rows[n]!.row}
            isBand={job.rows[n]!.band !== null}
            group={group}
            settings={settings}
            facing={facing}
          />
          <Words job={job} row={n} path={group?.path ?? null} at={at.group} size={size} />
          {group && (
            <p className="mt-2 text-[15px] text-slate" data-testid="next">
              {group.turn && (
                <span className="mr-3 text-peat">
                  time {group.turn.nth} of {group.turn.of}
                </span>
              )}
              {next}
            </p>
          )}
          <p className="mt-1 text-[15px]" data-testid="counts">
            {counts}
          </p>
          {crossing && <CrossingHelp job={job} crossing={crossing} side={hands.side} />}
        </>
      )}
    </>
  );
}

/** A place in words: "row 34", "the border, row 3". */
function placeText(job: Course, { row }: { row: number }): string {
  if (row >= lengthOfCourse(job)) return 'the end';
  if ('readings' in job) return `counter ${job.readings[row]!.counter}`;
  const { section, text } = titleOf(job, row);
  return [section && `the ${section.toLowerCase()}`, text.toLowerCase()].filter(Boolean).join(', ');
}

/** What is on the needle at the markers and at the end, and what comes after the group. */
function useAhead(job: Job, at: At, done: boolean): { counts: string; next: string } {
  return useMemo(() => {
    if (done) return { counts: '', next: '' };
    const { groups, makes, stretches } = rowInHands(job, at.row);
    const { worked, waiting } = onNeedles(job, at);
    const what = job.manner.stitches === 'pairs' ? 'pairs' : 'sts';
    const after = stretches.length > 1 ? `${stretches.join(' + ')} = ${makes}` : `${makes}`;
    const counts = `${worked.length} worked, ${waiting.length} wait. After the row: ${after} ${what}.`;
    const following = groups[at.group + 1];
    const above = at.row + 1 < job.rows.length ? at.row + 1 : null;
    const next = following
      ? `then ${following.text}`
      : above === null
        ? 'then all is worked'
        : `then ${titleOf(job, above).text.toLowerCase()}: ${rowInHands(job, above).groups[0]?.text ?? 'nothing to work'}`;
    return { counts, next };
  }, [job, at, done]);
}

function Head({
  box,
  edition,
  onSheet,
  look,
  isAwake,
  beds,
}: {
  box: Outbox<'knitting'>;
  edition: Edition;
  onSheet: (sheet: Sheet) => void;
  look: (patch: object) => void;
  isAwake: boolean;
  beds: boolean;
}) {
  const { needles: looks } = useAppSelector((s) => s.habits);
  const keeping = useAppSelector((s) => s.browser.keeping);
  const { document: knitting, save } = box;
  const { proved } = useProof(
    useMemo(() => inHer(edition.document, knitting.hand), [edition, knitting.hand]),
  );
  useEffect(() => {
    document.title = `${knitting.name}: ${edition.document.title} – Cordelina`;
  }, [knitting.name, edition]);
  const isKept = keeping === 'kept';
  const saved =
    save.kind === 'saved'
      ? isKept
        ? 'kept'
        : 'on the server only'
      : save.kind === 'away'
        ? isKept
          ? 'kept on this device'
          : keeping === 'full'
            ? 'this device is full: only in this open page'
            : 'only in this open page'
        : save.kind === 'refused' || save.kind === 'gone'
          ? 'not saved'
          : 'saving …';
  return (
    <header className="flex h-12 shrink-0 items-center gap-1 border-b border-rule px-1">
      <Link
        to={`/designs/${knitting.design}/needles`}
        aria-label="Back to the design"
        className="grid h-11 w-11 shrink-0 place-items-center rounded-sm hover:bg-wash"
      >
        <ArrowLeft size={20} aria-hidden />
      </Link>
      <div className="min-w-0 flex-1 leading-tight">
        <h1 className="truncate text-[16px] font-semibold">{edition.document.title}</h1>
        <p className="truncate text-[13px] text-slate">
          {knitting.name}, {knitting.knitter} ·{' '}
          <span role="status" data-save={save.kind}>
            {saved}
          </span>
          {proved && (
            <span className={proved.checked ? 'text-lichen' : 'text-madder'}>
              {' '}
              · {proved.checked ? 'proved' : 'not proved'}
            </span>
          )}
        </p>
      </div>
      <IconButton
        name="Read aloud"
        pressed={looks.speaks}
        className="h-11! w-11! max-[360px]:hidden"
        onClick={() => look({ speaks: !looks.speaks })}
      >
        <Volume2 size={19} aria-hidden />
      </IconButton>
      <IconButton
        name="Write down what you notice"
        keys="N"
        className="h-11! w-11!"
        onClick={() => onSheet('note')}
      >
        <NotebookPen size={19} aria-hidden />
      </IconButton>
      <ButtonMenu
        label="At the needles"
        after={() => undefined}
        lines={[
          [
            ...(beds ? [] : [{ label: 'Which row am I on?', keys: 'W', run: () => onSheet('which') }]),
            ...(beds ? [] : [{ label: 'Take work back …', keys: 'U', run: () => onSheet('undo') }]),
            { label: 'Write a note …', keys: 'N', run: () => onSheet('note') },
            ...(beds ? [] : [{ label: 'Rows, hours, skeins …', keys: 'L', run: () => onSheet('log') }]),
          ],
          [
            {
              label: 'Larger words',
              run: () => look({ size: Math.min(SIZES.length - 1, looks.size + 1) }),
              disabled: looks.size === SIZES.length - 1,
            },
            {
              label: 'Smaller words',
              run: () => look({ size: Math.max(0, looks.size - 1) }),
              disabled: looks.size === 0,
            },
            {
              label: 'Dark',
              checked: looks.theme === 'dark',
              run: () => look({ theme: looks.theme === 'dark' ? 'light' : 'dark' }),
            },
            {
              label: 'Strip as it faces you',
              checked: looks.strip === 'facing',
              run: () => look({ strip: looks.strip === 'facing' ? 'charted' : 'facing' }),
            },
          ],
          [
            {
              label: 'Buttons for the left thumb',
              checked: looks.thumb === 'left',
              run: () => look({ thumb: looks.thumb === 'left' ? 'both' : 'left' }),
            },
            {
              label: 'Buttons for the right thumb',
              checked: looks.thumb === 'right',
              run: () => look({ thumb: looks.thumb === 'right' ? 'both' : 'right' }),
            },
            { label: 'Read aloud', checked: looks.speaks, run: () => look({ speaks: !looks.speaks }) },
            {
              label:
                isAwake || !looks.awake
                  ? 'Keep the screen awake'
                  : 'Keep the screen awake (the browser does not)',
              checked: looks.awake,
              run: () => look({ awake: !looks.awake }),
            },
          ],
        ]}
      >
        <button
          type="button"
          aria-label="More"
          className="grid h-11 w-11 shrink-0 place-items-center rounded-sm hover:bg-wash"
        >
          <Menu size={20} aria-hidden />
        </button>
      </ButtonMenu>
    </header>
  );
}

/** The row by its number on the sheet, its side, its pass, and the row of every panel. */
function RowHead({ job, at, done }: { job: Job; at: At; done: boolean }) {
  const n = Math.min(at.row, job.rows.length - 1);
  const { section, text, panels } = titleOf(job, n);
  const { side, pass, passes } = job.rows[n]!;
  const shown = panels.filter(
    ({ name, row }, i) => panels.findIndex((p) => p.name === name && p.row === row) === i,
  );
  return (
    <div
      className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5 pt-2"
      aria-live="polite"
      data-testid="row-head"
    >
      <h2 className="text-[30px] leading-tight font-semibold">
        {section && `${section}, `}
        {done ? 'done' : text}
      </h2>
      {!done && (
        <p className="text-[15px] text-slate">
          {sideText(side, job.manner)}
          {passes > 1 && ` · repeat ${pass} of ${passes}`} · {n + 1} of {job.rows.length} in all
        </p>
      )}
      {shown.length > 0 && !done && (
        <p className="basis-full text-[14px] text-slate">
          {shown.map(({ name, row }) => `${name} row ${row}`).join(' · ')}
        </p>
      )}
    </div>
  );
}

function StripPane({ isBand, ...props }: Omit<Parameters<typeof Strip>[0], 'width'> & { isBand: boolean }) {
  const {
    ref,
    size: { width },
  } = usePaneSize();
  return (
    <div ref={ref} className="mt-2 min-h-[40px]">
      {width > 0 && !isBand && <Strip {...props} width={Math.min(width, 760)} />}
    </div>
  );
}

/** A word stands on one line; what is spelled out may take several. */
const isWord = ({ text, path }: WordPiece): boolean => path !== null && text.length < 24;

/** The words of the row, the group that comes next lit. */
function Words({
  job,
  row,
  path,
  at,
  size,
}: {
  job: Job;
  row: number;
  path: readonly number[] | null;
  at: number;
  size: number;
}) {
  const { items, groups } = rowInHands(job, row);
  const lit = path?.join();
  const pieces = useMemo(
    () =>
      items.length
        ? wordPieces(items, job.manner)
        : groups.flatMap((g, i) => [...(i ? [{ text: ', ', path: null }] : []), { text: g.text, path: [i] }]),
    [items, groups, job.manner],
  );
  const isLit = (own: readonly number[] | null) =>
    own !== null && (items.length ? own.join() === lit : own[0] === at);
  return (
    <p className="mt-3 font-mono leading-snug" style={{ fontSize: size }} data-testid="words">
      {pieces.map((piece, i) =>
        isLit(piece.path) ? (
          <mark
            key={i}
            aria-current="step"
            className={`rounded-sm bg-peat px-1 text-chalk ${isWord(piece) ? 'whitespace-nowrap' : ''}`}
            ref={(el) => el?.scrollIntoView({ block: 'nearest' })}
          >
            {piece.text}
          </mark>
        ) : (
          <span key={i} className={isWord(piece) ? 'whitespace-nowrap' : ''}>
            {piece.text}
          </span>
        ),
      )}
    </p>
  );
}

/** What a thumb reaches: on by a group, back, and by rows. */
function Going({
  go,
  group,
  isLast,
  thumb,
  done,
  beds,
}: {
  go: Record<'forward' | 'back' | 'rowForward' | 'rowBack', () => void>;
  group: string | null;
  isLast: boolean;
  thumb: 'both' | 'left' | 'right';
  done: boolean;
  beds: boolean;
}) {
  const small = 'h-14! w-14! border-slate/50! bg-chalk';
  return (
    <footer
      className={`flex shrink-0 gap-2 border-t border-rule bg-fleece p-2 ${thumb === 'left' ? 'flex-row-reverse pr-[18%]' : thumb === 'right' ? 'pl-[18%]' : ''}`}
    >
      <IconButton name="Back by a row" keys="↑" className={small} onClick={go.rowBack}>
        <ChevronsLeft size={22} aria-hidden />
      </IconButton>
      <IconButton name="Back by a group" keys="←" className={small} onClick={go.back}>
        <ChevronLeft size={22} aria-hidden />
      </IconButton>
      <button
        type="button"
        disabled={done}
        onClick={go.forward}
        className="flex h-14 min-w-0 flex-1 items-center justify-center gap-1 rounded-sm bg-peat px-2 text-[18px] text-chalk disabled:opacity-45"
        data-testid="go-on"
      >
        <span className="truncate">
          {done ? 'Done' : `${isLast && !beds ? 'Row done' : 'Done'}${group ? `: ${group}` : ''}`}
        </span>
        <ChevronRight size={22} aria-hidden className="shrink-0" />
      </button>
      <IconButton name="On by a row" keys="↓" className={small} onClick={go.rowForward} disabled={done}>
        <ChevronsRight size={22} aria-hidden />
      </IconButton>
    </footer>
  );
}
