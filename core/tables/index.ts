export { readCsv, readJsonTable, tableLimits, TableError, writeCsv, writeJsonTable, type Table } from './table.ts';
export {
  columnWord,
  judgeTable,
  mappedTwice,
  mendTable,
  seeTable,
  type Judged,
  type JudgedNumber,
  type JudgeInput,
  type Mapping,
  type RefusedRow,
  type RowState,
  type SeenRow,
} from './importTable.ts';
export { guessSettingColumn, readSetting, settingColumns, type SettingColumn } from './settingColumns.ts';
