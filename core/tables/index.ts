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
