import { lengthText, needleText, YARN_WEIGHTS, type Gauge, type Swatch } from '@cordelina/core';
import { useState } from 'react';
import { Choices, type Telling } from '../desk/head/Choices.js';
import { Notice } from '../desk/head/Notices.js';
import { useAppDispatch, useAppSelector } from '../desk/state/index.js';
import { letSwatchGo, putSwatchBack, swatchBoxes, swatches } from '../desk/state/swatches.js';
import type { Outbox } from '../sync/outbox.js';
import { startOver } from '../sync/post.js';
import { Button } from '../ui/Button.js';
import type { Unit } from './swatch-facts.js';

const numbers = (readings: readonly Gauge[], unit: Unit): string =>
  readings.map(({ count, over }) => `${count} over ${lengthText(over, unit)}`).join(', ');

/** What a field of a swatch holds, in the trade's words. */
const tellIn =
  (unit: Unit, titles: Readonly<Record<string, string>>): Telling =>
  ([field], value) => {
    if (value === null || value === '' || (Array.isArray(value) && !value.length)) return 'none';
    const words: Readonly<Record<string, () => string>> = {
      before: () => numbers(value as Gauge[], unit),
      after: () => numbers(value as Gauge[], unit),
      needle: () => needleText(value as number),
      weight: () => YARN_WEIGHTS[value as number]?.name ?? '',
      of: () => titles[(value as NonNullable<Swatch['of']>).design] ?? 'a design',
      side: () => (value === 'RS' ? 'right side' : 'wrong side'),
      whole: () => {
        const { stitches, rows } = value as NonNullable<Swatch['whole']>;
        return `${stitches ?? 'no'} stitches, ${rows ?? 'no'} rows`;
      },
      grams: () => `${value as number} g`,
    };
    return words[field!]?.() ?? (value as string);
  };

/** What stands between this browser's swatches and the server's, one swatch at a time, with the ways out of it. */
export function SwatchNotices({ unit, titles }: { unit: Unit; titles: Readonly<Record<string, string>> }) {
  const dispatch = useAppDispatch();
  const [choosing, setChoosing] = useState<string | null>(null);
  const boxes = useAppSelector(swatchBoxes);
  const box = boxes.find(({ save, choices }) => needsWord(save.kind) || choices.length > 0);
  if (!box) return null;
  const { name } = box.document;
  return (
    <>
      {box.save.kind === 'gone' && (
        <Notice text={`${name} was taken out of the book elsewhere. What was measured here since is kept.`}>
          <Button onClick={() => void dispatch(letSwatchGo(box.id))}>Let mine go too</Button>
          <Button tone="main" onClick={() => dispatch(putSwatchBack(box.id))}>
            Put it back
          </Button>
        </Notice>
      )}
      {box.save.kind === 'refused' && (
        <Notice text={`The server does not take what was done to ${name}: ${box.save.message}`}>
          {box.base > 0 ? (
            <Button tone="main" onClick={() => void dispatch(startOver(box.id))}>
              Go back to what is saved
            </Button>
          ) : (
            <Button tone="main" onClick={() => void dispatch(letSwatchGo(box.id))}>
              Take it out again
            </Button>
          )}
        </Notice>
      )}
      {box.choices.length > 0 && (
        <Notice
          text={`${name} was measured here and elsewhere, and ${box.choices.length === 1 ? 'one thing is' : `${box.choices.length} things are`} not the same. What was saved elsewhere stands for now; yours is kept.`}
        >
          <Button tone="main" onClick={() => setChoosing(box.id)}>
            Choose what is to stand
          </Button>
        </Notice>
      )}
      {choosing === box.id && box.choices.length > 0 && (
        <Choices
          box={box}
          tell={tellIn(unit, titles)}
          onSaid={(said) => said && dispatch(swatches.told(said.text))}
          onClose={() => setChoosing(null)}
        />
      )}
    </>
  );
}

const needsWord = (kind: Outbox['save']['kind']) => kind === 'gone' || kind === 'refused';
