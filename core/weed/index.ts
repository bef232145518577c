export { learntLeast, type LearntLeast, currentWeeds, weedReading, type Weed, type WeedReading } from './weed.ts';
