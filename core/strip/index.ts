export { stripDomain, stripShades, stripSplit, stripTicks, stripX, type Domain } from './stripGeometry.ts';
export { leanStrip, listDomain, rowDomain, type LeanStrip } from './leanStrip.ts';
