export { fileLimits } from './fileLimits.ts';
export {
  columnByKey,
  columns,
  readHeat,
  readLength,
  sayCell,
  type CatalogueRecord,
  type ReadContext,
  type Size,
} from './columns.ts';
export { hexKnown, hexOfName } from './colours.ts';
export { escapeFormula, guessColumns, readRow, recordKey, writeRow, type Problem } from './rows.ts';
