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
export { escapeFormula, guessColumns, readRow, recordKey, writeRow, type Problem, type ReadRow } from './rows.ts';
export { readCsv, readJsonTable, tableLimits, TableError, writeCsv, writeJsonTable, type Table } from './table.ts';
export {
  judgeTable,
  mappedTwice,
  seeTable,
  type Judged,
  type JudgeInput,
  type Mapping,
  type RowState,
  type SeenRow,
} from './importTable.ts';
