import { limitsOf, listPlace, startOf, type Axis } from '../controls/index.ts';
import { unknownKind } from '../units/index.ts';

/** Span given to an axis whose numbers are not proportional to the load, in log grams: about 25 g to 300 g. */
const NOMINAL_SPAN = 2.5;

/** What one step of a list's pressure modifier is taken to add, in log load, before it is learnt. Common practice, no source. */
export const MODIFIER_LOAD = 0.15;

export type NominalLoad = {
  /** From the lowest to the highest position, in log load. */
  span: number;
  /** Log load of a position (whole or between), against the position where the maker puts plain vinyl. */
  at(position: number): number;
};

/**
 * Nominal log load along an axis, before its gain b is learnt: log of the number where that is proportional to the load,
 * a straight line for signed numbers and for dials, the entries' own loads for a list. The load is 0 at the position where the maker puts plain vinyl.
 */
export function nominalLoad(axis: Axis): NominalLoad {
  const { min, max } = limitsOf(axis);
  const start = startOf(axis);
  const perStep = NOMINAL_SPAN / (max - min);
  const straight = { span: NOMINAL_SPAN, at: (position: number) => (position - start) * perStep };
  switch (axis.kind) {
    case 'number':
      if (axis.scale === 'linear') return straight;
      return { span: Math.log(max / min), at: (position) => Math.log(position / start) };
    case 'list': {
      const rough = (position: number) => {
        const { entry, modifier } = listPlace(axis, position);
        return axis.entries[entry]!.load + (modifier - (axis.modifier?.normal ?? 0)) * MODIFIER_LOAD;
      };
      return { span: rough(max) - rough(min), at: (position) => rough(position) - rough(start) };
    }
    case 'dial':
      return straight;
    default:
      return unknownKind(axis);
  }
}
