export {
  translate,
  translateInputSchema,
  TranslateError,
  type Prediction,
  type TranslateInput,
  type Translation,
} from './translate.ts';
export { readShelf, type ShelfResult } from './readShelf.ts';
export { Shelf, type Basis, type CutterOffset, type ShelfPrediction } from './shelf.ts';
export { shelfDefaults } from './shelfInput.ts';
export {
  shelfInputSchema,
  type ShelfInput,
  type ShelfScale,
  type ShelfSetting,
  type ShelfWanted,
} from './shelfInput.ts';
export { centreOf, confirmedRow, gradedRow, scaleRow, settingRow, shelfModel } from './evidence.ts';
export { placeBeside, translateTo, type Translated } from './onCutter.ts';
export { shelfKeeper, type ShelfAnswer, type ShelfAsked, type ShelfQuestion } from './ask.ts';
export { chanceOff, rankDefaults, rankOf, type Rank } from './rank.ts';
