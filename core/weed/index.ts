export {
  learntLeast,
  type LearntLeast,
  currentWeeds,
  weedDefaults,
  weedReading,
  type Weed,
  type WeedReading,
} from './weed.ts';
