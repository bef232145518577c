export * from './length.ts';
export * from './temperature.ts';
export { parseDecimal } from './parseDecimal.ts';
export { unknownKind } from './unknownKind.ts';
