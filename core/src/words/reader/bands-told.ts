import type { BandLine, BandTold } from '../pattern.js';
import { tryPiece, type Span } from './language.js';

/** More bands than any chart has rows are not read. */
const MOST_BANDS = 1200;
const MOST_ROUNDS = 12;

/** The bands of a text, whose lines follow each other: where one stands, its rounds, its end. */
export class BandsTold {
  readonly lines: BandLine[] = [];
  private readonly places = new WeakMap<BandLine, Span>();
  private open: { line: BandLine; told: BandTold } | null = null;
  private readonly left: Span[] = [];

  /** Takes one line; why it cannot be taken, or null. */
  read(text: string, at: Span): string | null {
    const said = tryPiece('Band', text);
    if (!said)
      return 'This line of a band was not understood: it tells braid steps, where it is drawn under, and markers.';
    if (this.lines.length >= MOST_BANDS) return `A text has at most ${MOST_BANDS} bands.`;
    if ('before' in said) {
      this.leave();
      const { before, ...told } = said;
      const body = 'as' in told ? told : { ...told, rounds: [] };
      const line: BandLine = { before, body };
      this.places.set(line, at);
      this.lines.push(line);
      if (!('as' in body)) this.open = { line, told: body };
      return null;
    }
    const { open } = this;
    if (!open) return 'A round of a band stands here without "Band before round …".';
    if ('ends' in said) {
      if (said.ends !== open.line.before) return `This band stands before round ${open.line.before}.`;
      this.open = null;
      return null;
    }
    const { round, ...items } = said;
    if (round !== open.told.rounds.length + 1 || round > MOST_ROUNDS)
      return `Round ${open.told.rounds.length + 1} of the band should stand here.`;
    open.told.rounds.push(items);
    return null;
  }

  placeOf = (line: BandLine): Span | undefined => this.places.get(line);

  /** Bands that were begun and not ended. */
  unfinished(): Span[] {
    this.leave();
    return this.left;
  }

  private leave(): void {
    if (this.open) this.left.push(this.places.get(this.open.line)!);
    this.open = null;
  }
}
