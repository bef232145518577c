export { truePaper } from './paper.ts';
export {
  placeTopics,
  shapeKeys,
  shapes,
  type Margins,
  type PlaceTopic,
  type PlaceWay,
  type Shape,
  type ShapeKey,
} from './shapes.ts';
export {
  blankSchema,
  bySize,
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
  type PlaceHabits,
  type Spot,
} from './place.ts';
