export { pieceAt, piecesOf, type CutDrawing, type CutPiece } from './piece.ts';
export { HPGL_UNIT, hpglComment, hpglOfPiece, writeHpgl } from './writeHpgl.ts';
export { HpglError, readHpgl } from './readHpgl.ts';
export { writeDxf } from './writeDxf.ts';
export { cutFileKinds, cutFileType, writeCutFile, writeDrawing, type CutFileKind } from './writeCutFile.ts';
