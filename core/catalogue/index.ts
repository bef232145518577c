export { fileLimits } from './fileLimits.ts';
export {
  columnByKey,
  columns,
  readHeat,
  readLength,
  sayCell,
  type CatalogueRecord,
  type Column,
  type ReadContext,
  type Size,
} from './columns.ts';
export { hexKnown, hexOfName } from './colours.ts';
export { escapeFormula, guessColumns, readRow, recordKey, writeRow, type Problem, type ReadRow } from './rows.ts';
