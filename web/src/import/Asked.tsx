import { isCrossing, type Question } from '@cordelina/core';
import { RadioGroup } from 'radix-ui';
import { StitchDrawing } from '../ui/StitchDrawing.js';

const BOOK = { own: [] };

/** What a meaning is called in words. */
function meaningText(stitch: Question['meanings'][number]['stitch']): string {
  if (!isCrossing(stitch)) return stitch === 'below' ? 'into the stitch below' : 'through the back loop';
  const { front, centre, back, lean } = stitch;
  const isPurl = back.every((w) => w === 'p') || centre.some((w) => w === 'p');
  const middle = centre.length ? `, ${centre.length} between` : '';
  return `${front.length} over ${back.length}${middle}, ${lean}${isPurl ? ', purl behind' : ''}`;
}

/** Names that may mean more than one thing, each with the cloths it may mean side by side. */
export function Asked({
  questions,
  answered,
  onAnswer,
}: {
  questions: readonly Question[];
  answered: Readonly<Record<string, string>>;
  onAnswer: (word: string, id: string | null) => void;
}) {
  const known = Object.entries(answered);
  if (!questions.length && !known.length) return null;
  return (
    <section aria-label="Questions" className="mb-5 grid gap-4">
      {questions.map(({ word, message, meanings }) => (
        <fieldset key={word} className="grid gap-2 border border-rule bg-chalk px-4 py-3">
          <legend className="px-1 font-semibold text-weld">What is {word.toUpperCase()}?</legend>
          <p className="text-[14px]">
            {message.replace(/ (?:Say which school, or d|D)efine it in the key\.$/, '')}
          </p>
          <RadioGroup.Root
            aria-label={`What ${word.toUpperCase()} means`}
            value=""
            onValueChange={(id) => onAnswer(word, id)}
            className="flex flex-wrap gap-2"
          >
            {meanings.map(({ id, stitch }) => (
              <RadioGroup.Item
                key={id}
                value={id}
                className="grid min-h-[64px] min-w-[112px] justify-items-center gap-1.5 rounded-sm border border-slate/50 bg-fleece px-3 py-2 hover:border-peat"
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
      ))}
      {known.length > 0 && (
        <p className="text-[13px] text-slate">
          Answered before:{' '}
          {known.map(([word, id]) => (
            <button
              key={word}
              type="button"
              className="mr-2 underline underline-offset-2"
              title={`It is read as ${id}. Ask again.`}
              onClick={() => onAnswer(word, null)}
            >
              {word.toUpperCase()}
            </button>
          ))}
        </p>
      )}
    </section>
  );
}
