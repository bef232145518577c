export { stripDomain, stripShades, stripSplit, stripTicks, stripX, type Domain, type Shade } from './stripGeometry.ts';
