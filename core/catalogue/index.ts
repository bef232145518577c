export {
  columnByKey,
  columns,
  readHeat,
  readLength,
  type CatalogueRecord,
  type Column,
  type ReadContext,
  type Size,
} from './columns.ts';
export { guessColumns, readRow, recordKey, writeRow, type Problem, type ReadRow } from './rows.ts';
