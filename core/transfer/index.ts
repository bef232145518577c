export { translate, translateInputSchema, type TranslateInput } from './translate.ts';
export { readShelf } from './readShelf.ts';
export { Shelf } from './shelf.ts';
export { shelfInputSchema, type ShelfInput, type ShelfSetting } from './shelfInput.ts';
export { confirmedRow, gradedRow, scaleRow, settingRow, shelfModel } from './evidence.ts';
export { placeBeside, type Translated } from './onCutter.ts';
export { shelfKeeper, type ShelfAnswer, type ShelfAsked, type ShelfQuestion } from './ask.ts';
export { rankOf, type Rank } from './rank.ts';
