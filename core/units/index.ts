export * from './length.ts';
export * from './temperature.ts';
export { capitalise } from './capitalise.ts';
export { readLength } from './readLength.ts';
export { parseDecimal } from './parseDecimal.ts';
export { numberStyles, sayDecimal, sayInches, withPoint, type NumberStyle } from './sayNumber.ts';
export { unknownKind } from './unknownKind.ts';
