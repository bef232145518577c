export { byClock, envelope, madeAt, onceInOrder, standingOf, type Envelope } from './envelope.ts';
