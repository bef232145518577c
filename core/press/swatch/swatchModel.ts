import { quickNormalCdf, seededRandom } from '../../stats/index.ts';

/**
 * A film under heat for a time has two ordered faces: how far it has bonded (or risen), and how far it, or the cloth, has suffered. Each has a
 * dose that grows with the log of time and with heat,
 *   d = log(t / s) + β · (h − h₀) / 10 °C,
 * and is graded in three by two thresholds under a normal noise: P(grade ≤ k) = (1 − λ) Φ((τ_k − d) / σ) + λ (k + 1) / 3. Heat counts as time
 * does in a rate that grows by a factor for every ten degrees (Arrhenius; Q10).
 */
export const swatchDefaults = {
  /** Log of the times by which half has bonded, and half has suffered, against the time that is usually said: middle and spread. */
  bonds: { middle: -0.55, sd: 0.5 },
  harms: { middle: 1.0, sd: 0.6 },
  /** log of β for bonding and for harm, a factor for every 10 °C: a rate that doubles in 20 °C, and one that nearly doubles in 10. */
  bondsByHeat: { middle: Math.log(0.35), sd: 0.4 },
  harmsByHeat: { middle: Math.log(0.55), sd: 0.4 },
  /** log of the gap between the two thresholds of a face, and of the noise. */
  gap: { middle: Math.log(0.35), sd: 0.4 },
  noise: { middle: Math.log(0.18), sd: 0.35 },
  /** Chance that a grade is a slip. */
  lapse: 0.02,
  draws: 3000,
};

export const bondGrades = ['not bonded', 'edges lift', 'bonded'] as const;
export const harmGrades = ['fine', 'shine mark', 'scorched'] as const;
/** The same of puff: it rises, and wrinkles. */
export const puffGrades = ['flat', 'part', 'raised'] as const;
export const puffHarms = ['fine', 'wrinkled', 'scorched'] as const;
export type SwatchGrade = 0 | 1 | 2;

/** A cell of a swatch: how hot, m°C, and how long, s. Set by a word whose heat is not known for sure: heat is where it is thought to lie. */
export type SwatchCell = { heat: number; seconds: number; word?: string | undefined };
/** What was seen of it: how far it bonded, and how far it suffered; undefined where nobody looked. */
export type SwatchSeen = SwatchCell & { bond?: SwatchGrade | undefined; harm?: SwatchGrade | undefined };

/** What is usually said: the heat the doses are counted from, m°C, and the time, s. */
export type Usual = { heat: number; seconds: number };

/** One face of a film, one draw: β, thresholds against the usual time, noise; and the heat of each word of a dial, m°C, where there is one. */
export type Face = {
  beta: number;
  low: number;
  high: number;
  sigma: number;
  words?: ReadonlyMap<string, number>;
};
export type SwatchDraws = { bonds: Face[]; harms: Face[] };

/** Draws of both faces before anybody pressed anything. */
export function swatchPrior(seed = 1, draws = swatchDefaults.draws): SwatchDraws {
  const random = seededRandom(seed);
  const d = swatchDefaults;
  const of = ({ middle, sd }: { middle: number; sd: number }) => middle + sd * random.normal();
  const face = (middle: typeof d.bonds, heat: typeof d.bondsByHeat, wanted: 'above' | 'below'): Face => {
    const edge = of(middle);
    const gap = Math.exp(of(d.gap));
    // What is known is the edge that matters: fully bonded, and not yet fine no more.
    return {
      beta: Math.exp(of(heat)),
      ...(wanted === 'above' ? { low: edge - gap, high: edge } : { low: edge, high: edge + gap }),
      sigma: Math.exp(of(d.noise)),
    };
  };
  return {
    bonds: Array.from({ length: draws }, () => face(d.bonds, d.bondsByHeat, 'above')),
    harms: Array.from({ length: draws }, () => face(d.harms, d.harmsByHeat, 'below')),
  };
}

/** The dose of a cell against the usual one, under one draw. */
export function doseOf(cell: SwatchCell, usual: Usual, { beta, words }: Pick<Face, 'beta' | 'words'>): number {
  const heat = (cell.word === undefined ? undefined : words?.get(cell.word)) ?? cell.heat;
  return Math.log(cell.seconds / usual.seconds) + (beta * (heat - usual.heat)) / 10_000;
}

/** Chance of a grade of a cell under one draw of a face. */
export function gradeChance(face: Face, cell: SwatchCell, usual: Usual, grade: SwatchGrade): number {
  const { lapse } = swatchDefaults;
  const d = doseOf(cell, usual, face);
  const upTo = grade === 2 ? 1 : quickNormalCdf(((grade === 0 ? face.low : face.high) - d) / face.sigma);
  const from = grade === 0 ? 0 : quickNormalCdf(((grade === 1 ? face.low : face.high) - d) / face.sigma);
  return (1 - lapse) * Math.max(0, upTo - from) + lapse / 3;
}
