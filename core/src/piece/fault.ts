/** Why a piece cannot be put together. */
export class PieceFault extends Error {
  constructor(
    message: string,
    readonly part?: string,
  ) {
    super(message);
  }
}
