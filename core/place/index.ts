export { truePaper } from './paper.ts';
export { shapeKeys, shapes, type Margins, type Shape, type ShapeKey } from './shapes.ts';
export {
  blankSchema,
  evenLength,
  place,
  placeInputSchema,
  spotSchema,
  usualSpot,
  usualWidth,
  widestDesign,
  type MeasuredBlank,
  type PlaceInput,
  type Placed,
  type Spot,
} from './place.ts';
