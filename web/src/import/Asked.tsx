import { isCrossing, type Question } from '@cordelina/core';
import { RadioGroup } from 'radix-ui';
import type { NameAnswered } from '@cordelina/core';
import { StitchDrawing } from '../ui/StitchDrawing.js';

const BOOK = { own: [] };

/** What a meaning is called in words. */
function meaningText(stitch: Question['meanings'][number]['stitch']): string {
  if (!isCrossing(stitch)) return stitch === 'below' ? 'into the stitch below' : 'through the back loop';
  const { front, centre, back, lean } = stitch;
  const isPurl = (group: typeof front) => group.length > 0 && group.every((w) => w.startsWith('p'));
  const middle = centre.length ? `, ${centre.length} between` : '';
  const faces =
    isPurl(front) && isPurl(back) ? ', purl' : isPurl(back) || isPurl(centre) ? ', purl behind' : '';
  const twisted = front.some((w) => w.endsWith('tbl')) ? ', twisted' : '';
  return `${front.length} over ${back.length}${middle}, ${lean}${faces}${twisted}`;
}

/** A name as the text writes it, as far as what is said of it shows that. */
const nameIn = ({ word, message }: Question): string =>
  [...message.matchAll(/"([^"]+)"/g)].map((m) => m[1]!).find((name) => name.toLowerCase() === word) ??
  word.toUpperCase();

/** Names that may mean more than one thing, each with the cloths it may mean side by side. */
export function Asked({
  questions,
  answered,
  askedIn,
  onAnswer,
}: {
  questions: readonly Question[];
  answered: readonly NameAnswered[];
  /** In how many patterns of a folder a name is asked about. */
  askedIn?: (word: string) => number;
  onAnswer: (word: string, id: string | null) => void;
}) {
  if (!questions.length && !answered.length) return null;
  return (
    <section aria-label="Questions" className="mb-5 grid gap-4">
      {questions.map((question) => {
        const { word, message, meanings } = question;
        const name = nameIn(question);
        return (
          <fieldset key={word} className="grid min-w-0 gap-2 border border-rule bg-chalk px-4 py-3">
            <legend className="px-1 font-semibold text-weld">What is {name}?</legend>
            <p className="text-[14px]">
              {message
                .replace(/ (?:Say which school, or d|D)efine it in the key\.$/, '')
                .replace(askedIn ? /^[^":]*: (?=")/ : /^(?!)/, '')}
              {askedIn && askedIn(word) > 1 && (
                <span className="text-slate"> Asked in {askedIn(word)} patterns.</span>
              )}
            </p>
            <RadioGroup.Root
              aria-label={`What ${name} means`}
              value=""
              onValueChange={(id) => onAnswer(word, id)}
              className="flex flex-wrap gap-2"
            >
              {meanings.map(({ id, stitch }) => (
                <RadioGroup.Item
                  key={id}
                  value={id}
                  className="grid min-h-[64px] min-w-[112px] justify-items-center gap-1.5 rounded-sm border border-slate/80 bg-fleece px-3 py-2 hover:border-peat"
                >
                  {isCrossing(stitch) ? (
                    <StitchDrawing stitch={stitch} chart={BOOK} height={30} most={150} />
                  ) : (
                    stitch !== 'below' && <StitchDrawing stitch={stitch} chart={BOOK} height={30} />
                  )}
                  <span className="text-[13px]">{meaningText(stitch)}</span>
                </RadioGroup.Item>
              ))}
            </RadioGroup.Root>
          </fieldset>
        );
      })}
      {answered.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 text-[13px] text-slate">
          Answered before:
          {answered.map(({ word, crossing }) => (
            <button
              key={word}
              type="button"
              title={crossing ? `${meaningText(crossing)}. Ask again.` : 'Ask again.'}
              onClick={() => onAnswer(word, null)}
              className="flex items-center gap-1.5 rounded-sm border border-slate/80 bg-chalk px-2 py-1 text-peat hover:border-peat"
            >
              {word.toUpperCase()}
              {crossing && <StitchDrawing stitch={crossing} chart={BOOK} height={18} most={80} />}
            </button>
          ))}
        </div>
      )}
    </section>
  );
}
