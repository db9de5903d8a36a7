/**
 * JSON from outside, looked over before anything is built of it: how deep it goes and how much it holds. Objects of a few bytes are
 * cheap to send by the million and dear to build.
 */

/** Deeper than any document, and more elements (keys, items, lists) than any has with all its cells spelled out. */
export const MOST_DEEP = 64;
export const MOST_ELEMENTS = 8_000_000;

/** It is none, or more than is built; the message is a sentence. */
export class JsonFault extends Error {
  constructor(
    message: string,
    readonly isTooMuch = false,
  ) {
    super(message);
  }
}

const [QUOTE, ESCAPE, COMMA] = [0x22, 0x5c, 0x2c];
const [SQUARE, SQUARE_END, CURLY, CURLY_END] = [0x5b, 0x5d, 0x7b, 0x7d];

/** @throws JsonFault where it goes deeper, or holds more, than is built */
function lookOver(bytes: Uint8Array): void {
  let depth = 0;
  let elements = 0;
  for (let i = 0; i < bytes.length; i++) {
    switch (bytes[i]) {
      case QUOTE:
        // What a text holds opens and parts nothing.
        for (i++; i < bytes.length && bytes[i] !== QUOTE; i++) if (bytes[i] === ESCAPE) i++;
        break;
      case SQUARE:
      case CURLY:
        elements++;
        if (++depth > MOST_DEEP) throw new JsonFault(`This goes deeper than ${MOST_DEEP} levels.`, true);
        break;
      case SQUARE_END:
      case CURLY_END:
        depth--;
        break;
      case COMMA:
        elements++;
        break;
    }
    if (elements > MOST_ELEMENTS)
      throw new JsonFault(`This holds more than ${MOST_ELEMENTS} elements.`, true);
  }
}

const decoder = new TextDecoder('utf-8', { fatal: true });

/** The value of JSON in UTF-8. @throws JsonFault */
export function boundedJson(bytes: Uint8Array): unknown {
  lookOver(bytes);
  try {
    return JSON.parse(decoder.decode(bytes));
  } catch {
    throw new JsonFault('This is not valid JSON.');
  }
}
