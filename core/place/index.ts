export { truePaper } from './paper.ts';
export { placeTopics, shapeKeys, shapes, type PlaceTopic, type ShapeKey } from './shapes.ts';
export {
  blankSchema,
  bySize,
  evenLength,
  place,
  placeInputSchema,
  spotSchema,
  usualSpot,
  usualWidth,
  type Placed,
  type PlaceHabits,
  type Spot,
} from './place.ts';
