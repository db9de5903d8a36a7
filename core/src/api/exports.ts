export {
  CheckRequest,
  ExpandRequest,
  MOST_CELLS,
  MOST_CELLS_IN_SIZES,
  MOST_CELLS_PRINTED,
  PdfRequest,
  PieceRequest,
  ReadRequest,
  SpreadRequest,
  TurnRequest,
  WriteRequest,
} from './compute.js';
export { type Card, CARD_PICTURE, CardSchema, pictureAt, type Summary, SummarySchema } from './designs.js';
export {
  ChangesRequest,
  type Happening,
  HappeningSchema,
  LARGEST_REQUEST,
  MakeRequest,
  type MomentAnswer,
  MomentSchema,
  NameRequest,
  RefusalSchema,
  ReplaceRequest,
  type SavedAnswer,
  SavedSchema,
  SinceSchema,
  type Stored,
  storedOf,
  StoredSchema,
  VersionSchema,
} from './documents.js';
export { type KeptSwatch, KeptSwatchSchema, PhotoSavedSchema, SwatchListSchema } from './swatches.js';
