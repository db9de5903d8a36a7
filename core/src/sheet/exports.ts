export { sheetMarkdown, sheetText } from './copies.js';
export { chartParts, SECTION_NAMES, type SheetBlock, sheetOf } from './sheet.js';
export { printedOf, writeDesign, type WrittenDesign } from './write-design.js';
