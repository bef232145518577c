export { tableLimits, TableError, writeCsv, writeJsonTable } from './table.ts';
export {
  columnWord,
  judgeTable,
  mappedTwice,
  mendTable,
  seeTable,
  type Judged,
  type JudgedNumber,
  type JudgeInput,
} from './importTable.ts';
export { guessSettingColumn, readSetting, settingColumns, type SettingColumn } from './settingColumns.ts';
