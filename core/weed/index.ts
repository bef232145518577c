export { currentWeeds, details, weedDefaults, weedReading, type Detail, type Weed, type WeedReading } from './weed.ts';
