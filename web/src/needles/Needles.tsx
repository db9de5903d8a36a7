import {
  back,
  forward,
  inDesign,
  isDone,
  lengthOfCourse,
  placeWithin,
  rowBack,
  rowForward,
  rowInHands,
  titleOf,
  type At,
  type BedsJob,
  type Course,
  type Edition,
  type InDesign,
  type Knitting,
} from '@cordelina/core';
import { useCallback, useMemo, useState } from 'react';
import { command } from '../desk/commands/command.js';
import { useOffer } from '../desk/commands/registry.js';
import { habits } from '../desk/state/habits.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { goTo, needles, takeUp } from '../desk/state/needles.js';
import { type Outbox } from '../sync/outbox.js';
import { Button } from '../ui/Button.js';
import { AtBeds } from './AtBeds.js';
import { Changed } from './Changed.js';
import { ownDevice, shownDevice } from './device.js';
import { Going } from './Going.js';
import { Head, SIZES, type Sheet } from './Head.js';
import { LogSheet } from './LogSheet.js';
import { NoteSheet } from './NoteSheet.js';
import { OneRow } from './OneRow.js';
import { Rests } from './Rests.js';
import { UndoSheet } from './UndoSheet.js';
import { inHer } from './useJob.js';
import { useAwake, useGoingKeys, useHeadset, useSpeech } from './useHands.js';
import { WhichRowSheet } from './WhichRowSheet.js';

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

/** What is knitted, in the hands. */
export function Needles({ box, edition, job }: { box: Outbox<'knitting'>; edition: Edition; job: Course }) {
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
      {box.out && (
        <div role="alert" className="flex items-center gap-2 border-b border-rule bg-wash px-3 py-2">
          <span className="mr-auto">This was put away on another device. Your place is kept.</span>
          <Button className="min-h-11" onClick={() => dispatch(takeUp(id))}>
            Take it up again
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
      <main
        tabIndex={-1}
        className="outline-none min-h-0 flex-1 overflow-auto px-3 pb-3"
        data-testid="needles"
      >
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

/** A place in words: "row 34", "the border, row 3". */
function placeText(job: Course, { row }: { row: number }): string {
  if (row >= lengthOfCourse(job)) return 'the end';
  if ('readings' in job) return `counter ${job.readings[row]!.counter}`;
  const { section, text } = titleOf(job, row);
  return [section && `the ${section.toLowerCase()}`, text.toLowerCase()].filter(Boolean).join(', ');
}
