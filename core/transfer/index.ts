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
