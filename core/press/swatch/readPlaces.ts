import { posterior } from './readSwatch.ts';
import { gradeChance, type SwatchCell, type SwatchGrade, type SwatchSeen, type Usual } from './swatchModel.ts';

const placesDefaults = {
  /** How far the places of a plate differ before anybody looked, °C. Judgement, no source. */
  sd: 6,
  /** Places nearer than this to the middle press as it does, °C. */
  even: 5,
};

type PlaceRead = {
  /** Row and column, from the top left: 0 to 2. */
  row: number;
  column: number;
  /** How much cooler than set it is, °C: the middle of what is left of doubt, and how wide that is. */
  cooler: number;
  sd: number;
};
export type PlacesReading = {
  places: PlaceRead[];
  coolest: PlaceRead;
  /** How much cooler the coolest place is than the middle, °C; 0 where none is. */
  uneven: number;
  /** The largest part of the plate round its middle that presses evenly, thirds of its width and of its length. */
  even: { columns: 1 | 3; rows: 1 | 3 };
};

/**
 * The same swatch in nine places of a plate: how much cooler each is than set, from how far it bonded there. A place is a shift of heat, normal
 * around none; the film is as known from its other swatches, or from nothing but what is usually said.
 * @param grades row by row from the top left, nine; undefined where nobody looked
 */
export function readPlaces(
  grades: readonly (SwatchGrade | undefined)[],
  cell: SwatchCell,
  usual: Usual,
  seen: readonly SwatchSeen[] = [],
): PlacesReading {
  if (grades.length !== 9) throw new RangeError(`invalid grades; nine places, not ${grades.length}`);
  const { bonds } = posterior(seen, usual, { seed: 5, draws: 800 });
  const shifts = Array.from({ length: 41 }, (_, i) => i - 20);
  // Chance of each grade at each shift, per draw: the draws are shared by all nine places.
  const chances = bonds.faces.map((f) =>
    shifts.map((s) =>
      ([0, 1, 2] as const).map((g) => gradeChance(f, { ...cell, heat: cell.heat - s * 1000 }, usual, g)),
    ),
  );
  const prior = shifts.map((s) => Math.exp(-0.5 * (s / placesDefaults.sd) ** 2));
  const total = prior.reduce((a, b) => a + b, 0);
  const means = grades.map(() => ({ w: 0, m: 0, v: 0 }));
  chances.forEach((at, d) => {
    let weight = bonds.weights[d]!;
    const here = grades.map((g) => {
      let [w, m, v] = [0, 0, 0];
      shifts.forEach((s, i) => {
        const p = (prior[i]! / total) * (g === undefined ? 1 : at[i]![g]!);
        w += p;
        m += p * s;
        v += p * s * s;
      });
      weight *= w;
      return { m: m / w, v: v / w };
    });
    here.forEach((h, i) => {
      means[i]!.w += weight;
      means[i]!.m += weight * h.m;
      means[i]!.v += weight * h.v;
    });
  });
  const places = means.map(({ w, m, v }, i): PlaceRead => {
    const mean = m / w;
    return {
      row: Math.floor(i / 3),
      column: i % 3,
      cooler: Math.round(mean * 10) / 10,
      sd: Math.round(Math.sqrt(Math.max(0, v / w - mean * mean)) * 10) / 10,
    };
  });
  const middle = places[4]!.cooler;
  const [coolest] = places.toSorted((a, b) => b.cooler - a.cooler);
  const good = (of: readonly number[]) => of.every((i) => places[i]!.cooler - middle < placesDefaults.even);
  const even: PlacesReading['even'] = good([0, 1, 2, 3, 4, 5, 6, 7, 8])
    ? { columns: 3, rows: 3 }
    : good([3, 4, 5])
      ? { columns: 3, rows: 1 }
      : good([1, 4, 7])
        ? { columns: 1, rows: 3 }
        : { columns: 1, rows: 1 };
  return { places, coolest: coolest!, uneven: Math.max(0, Math.round((coolest!.cooler - middle) * 10) / 10), even };
}
