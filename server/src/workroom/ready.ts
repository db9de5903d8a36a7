/** An answer of JSON that is kept: as it is sent, and packed once somebody takes it so. */
export interface Ready {
  readonly plain: Buffer;
  packed?: Buffer;
}
