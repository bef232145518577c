export { envelope, madeAt, onceInOrder, standingOf, type Envelope } from './envelope.ts';
