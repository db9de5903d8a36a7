export { sheetMarkdown, sheetText } from './copies.js';
export {
  columnsIn,
  LEAST_CELL,
  PAGE_MARGIN,
  PAGES,
  partName,
  partsOf,
  planOf,
  type Within,
} from './parts.js';
export { BESIDE, SECTION_NAMES, type SheetBlock, sheetOf } from './sheet.js';
export { printedOf, writeDesign, type WrittenDesign } from './write-design.js';
