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
  MachineRequest,
  MachineRunRequest,
  TurnRequest,
  WriteRequest,
} from './compute.js';
export {
  BasketSchema,
  type Card,
  CARD_PICTURE,
  CardSchema,
  DAYS_IN_BASKET,
  type InBasket,
  pictureAt,
  type Seal,
  SealSchema,
  SUMMARY_FORM,
  type Summary,
  SummarySchema,
} from './designs.js';
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
export {
  type KeptSwatch,
  KeptSwatchSchema,
  listedOf,
  PhotoSavedSchema,
  SwatchListSchema,
} from './swatches.js';
export { boundedJson, JsonFault } from './bounded-json.js';
export { DESCRIBED, type Described } from './described.js';
export { openApi } from './open-api.js';
export { designSchema } from './json-schema.js';
