export {
  translate,
  translateInputSchema,
  TranslateError,
  type Prediction,
  type TranslateInput,
  type Translation,
} from './translate.ts';
export {
  readShelf,
  Shelf,
  shelfDefaults,
  shelfInputSchema,
  type Basis,
  type CutterOffset,
  type ShelfInput,
  type ShelfPrediction,
  type ShelfResult,
  type ShelfScale,
  type ShelfSetting,
  type ShelfWanted,
} from './shelf.ts';
export { centreOf, confirmedRow, scaleRow, settingRow, shelfModel } from './evidence.ts';
export { placeBeside, translateTo, type Translated } from './onCutter.ts';
export { shelfKeeper, type ShelfAnswer, type ShelfAsked, type ShelfQuestion } from './ask.ts';
export { chanceOff, rankDefaults, rankOf, type Rank } from './rank.ts';
