import {
  looksAtOneRepeat,
  questionsFor,
  rowsLookedThrough,
  rowsThatFit,
  sideSaid,
  titleOf,
  unfold,
  type Answered,
  type Asked,
  type Fact,
  type Job,
  type Settings,
  numberTyped,
} from '@cordelina/core';
import { useMemo, useState } from 'react';
import { Button } from '../ui/Button.js';
import { ChartPicture } from '../ui/ChartPicture.js';
import { Choose, Input } from '../ui/Field.js';
import { SheetDialog } from '../ui/Sheet.js';

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth'] as const;
const rope = (n: number) => `the ${ORDINALS[n] ?? `${n + 1}th`} rope from the right`;

/** A question as it is asked. */
function asks(asked: Asked): string {
  switch (asked.what) {
    case 'side':
      return 'Which side is towards you as you begin the next row?';
    case 'stitches':
      return 'How many stitches are on the needle?';
    case 'ropes':
      return 'How many ropes reach the needle?';
    case 'since':
      return `How many rows have been worked since ${rope(asked.rope)} last crossed?`;
    case 'lean':
      return `Which way does the last crossing of ${rope(asked.rope)} lean?`;
    case 'crossings':
      return `How often has ${rope(asked.rope)} crossed so far?`;
    case 'between':
      return `How many stitches lie between ${rope(asked.rope)} and the next?`;
  }
}

const says = (answer: Answered, { manner }: Job): string =>
  answer === 'none'
    ? 'it has not crossed'
    : answer === 'RS' || answer === 'WS'
      ? sideSaid(answer, manner)
      : String(answer);

/** So many rows that fit are shown with what they look like. */
const MOST_SHOWN = 8;

/** Past so many answers a number is typed. */
const MOST_BUTTONS = 12;

/** A number that was counted. */
function Counted({ onSay }: { onSay: (n: number) => void }) {
  const [text, setText] = useState('');
  const isNumber = /^\d{1,4}$/.test(text.trim());
  return (
    <form
      className="flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (isNumber) onSay(numberTyped(text));
      }}
    >
      <Input
        aria-label="Counted"
        inputMode="numeric"
        className="h-11! max-w-[120px]"
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <Button type="submit" className="min-h-11" disabled={!isNumber}>
        So many
      </Button>
    </form>
  );
}

/** Tells a knitter who has lost her row where she is, from what she counts in the cloth. */
export function WhichRowSheet({
  job,
  settings,
  onGo,
  onClose,
}: {
  job: Job;
  settings: Settings;
  onGo: (row: number) => void;
  onClose: () => void;
}) {
  const [facts, setFacts] = useState<Fact[]>([]);
  const [other, setOther] = useState<number | null>(null);
  const rows = useMemo(() => rowsThatFit(job, facts), [job, facts]);
  const questions = useMemo(() => questionsFor(job, facts), [job, facts]);
  const drawn = useMemo(() => unfold(job.chart, 1).chart, [job]);
  const question = questions[other ?? 0] ?? questions[0];
  const answer = (fact: Fact) => {
    setFacts([...facts, fact]);
    setOther(null);
  };
  const whole = rowsLookedThrough(job);
  const high = job.rows.filter(({ band }) => band === null).length;
  return (
    <SheetDialog open wide onOpenChange={(open) => !open && onClose()} title="Which row am I on?">
      <div className="grid gap-3">
        <p aria-live="polite" className="font-semibold" data-testid="rows-fit">
          {rows.length === 0
            ? 'No row looks so: something was counted otherwise.'
            : rows.length === 1
              ? 'One row fits.'
              : `${rows.length} rows fit.`}
        </p>
        {facts.length > 0 && (
          <ul className="grid gap-1 text-[14px]">
            {facts.map((fact, i) => (
              <li key={i} className="flex items-center gap-2">
                <span className="mr-auto">
                  {asks(fact.asked)} <strong>{says(fact.answer, job)}</strong>
                </span>
                <Button onClick={() => setFacts(facts.filter((_, k) => k !== i))}>Take back</Button>
              </li>
            ))}
          </ul>
        )}
        {question && rows.length > 1 && (
          <section aria-label="Count these next" className="grid gap-2 border border-rule p-3">
            <h3 className="text-[14px] text-slate">Count these next</h3>
            <p className="text-[18px]">{asks(question.asked)}</p>
            {question.answers.length > MOST_BUTTONS ? (
              <Counted
                key={JSON.stringify(question.asked)}
                onSay={(n) => answer({ asked: question.asked, answer: n })}
              />
            ) : (
              <div className="flex flex-wrap gap-2">
                {question.answers.map(({ answer: given }) => (
                  <Button
                    key={String(given)}
                    className="min-h-11 min-w-11"
                    onClick={() => answer({ asked: question.asked, answer: given })}
                  >
                    {says(given, job)}
                  </Button>
                ))}
              </div>
            )}
            {questions.length > 1 && (
              <Choose
                label="I would rather count"
                value={other ?? 0}
                onChange={setOther}
                options={questions.slice(0, 20).map((q, i) => [i, asks(q.asked)] as const)}
              />
            )}
          </section>
        )}
        <ul className="grid grid-cols-2 gap-2 max-md:grid-cols-1">
          {rows.slice(0, MOST_SHOWN).map((worked) => {
            const r = job.rows.slice(0, worked).filter(({ band }) => band === null).length - 1;
            const to = Math.min(r, drawn.rows.length - 1);
            return (
              <li key={worked} className="grid gap-1 border border-rule p-2">
                <p>
                  {titleOf(job, worked - 1).text} is worked
                  {job.rows[worked - 1]!.passes > 1 && `, repeat ${job.rows[worked - 1]!.pass}`}
                </p>
                <div className="overflow-hidden bg-white">
                  <ChartPicture
                    chart={drawn}
                    settings={settings}
                    rows={{ from: Math.max(0, to - 7), to }}
                    columns={{ from: 0, to: Math.min(drawn.width, 26) - 1 }}
                    cell={Math.max(6, Math.min(12, Math.floor(300 / Math.min(drawn.width, 26))))}
                    label={`The cloth after ${titleOf(job, worked - 1).text.toLowerCase()}`}
                  />
                </div>
                <Button
                  tone={rows.length === 1 ? 'main' : 'plain'}
                  className="min-h-11"
                  onClick={() => {
                    onGo(worked);
                    onClose();
                  }}
                >
                  I am here
                </Button>
              </li>
            );
          })}
        </ul>
        {rows.length > MOST_SHOWN && <p className="text-slate">… and {rows.length - MOST_SHOWN} more.</p>}
        <p className="text-[13px] text-slate">
          Ropes are counted from the right, with the right side towards you
          {looksAtOneRepeat(job) && ', within the first repeat'}.
          {whole < high && ` The first ${whole} of ${high} rows are looked through.`}
        </p>
      </div>
    </SheetDialog>
  );
}
