import { StitchSchema, type Chart, type Corners, type Grid, type Guess, type Shown } from '@cordelina/core';
import { tracingLink } from '../../workers/links.js';
import type { PictureOpened } from '../../workers/tracing.worker.js';

/** The one picture that is open at the worker that reads them. */

const link = tracingLink();
let open: {
  picture: Blob;
  answer: Promise<{ opened: PictureOpened | null; problem: string | null }>;
} | null = null;

/** Opens a picture, unless it is open. A worker that failed is asked anew. */
export function openPicture(picture: Blob) {
  if (open?.picture === picture) return open.answer;
  const answer = link.ask((worker) => worker.open(picture));
  open = { picture, answer };
  answer.catch(() => (open = null));
  return answer;
}

export const gridBetween = (corners: Corners) => link.ask((worker) => worker.grid(corners));

export const snapCorners = (corners: Corners, grid: Grid) => link.ask((worker) => worker.snap(corners, grid));

/** What of the picture is seen through the chart. */
export interface Sheet {
  ink: ImageBitmap;
  cell: number;
}

export async function laySheet(picture: Blob, corners: Corners, grid: Grid): Promise<Sheet | null> {
  const { opened } = await openPicture(picture);
  if (!opened) return null;
  const { sheet, cell } = await link.ask((worker) => worker.lay(corners, grid));
  return { ink: sheet, cell };
}

/** So many rows are guessed at a time, so that what comes first is seen first. */
const AT_ONCE = 12;

/**
 * What all rows of the sheet that lies there seem to be by what was shown, told as they are found.
 *
 * @param isOver says that nobody waits for it any more
 */
export async function guessRows(
  shown: readonly Shown[],
  own: Chart['own'],
  { rows }: Grid,
  tell: (guesses: ReadonlyMap<number, readonly Guess[]>) => void,
  isOver: () => boolean,
): Promise<void> {
  await link.ask((worker) => worker.show(shown, own));
  const found = new Map<number, readonly Guess[]>();
  for (let from = 0; from < rows && !isOver(); from += AT_ONCE) {
    const told = await link.ask((worker) => worker.guess(from, from + AT_ONCE));
    told.forEach((row, i) =>
      found.set(
        from + i,
        // Read in another thread: its stitches are made this one's own.
        row.map((guess) => ({ ...guess, stitch: guess.stitch && StitchSchema.parse(guess.stitch) })),
      ),
    );
    if (!isOver()) tell(new Map(found));
  }
}

/** Lets go of the picture and of the worker. */
export function closePicture(): void {
  open = null;
  link.close();
}
