export { stripDomain, stripShades, stripSplit, stripTicks, stripX, type Domain, type Shade } from './stripGeometry.ts';
export { leanStrip, listDomain, rowDomain, thinShades, type LeanStrip } from './leanStrip.ts';
