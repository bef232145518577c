import { fahrenheitToMilliCelsius, type Micrometres, type MilliCelsius } from '../units/index.ts';
import type { VinylTypeKey } from './types.ts';

/** What a fabric may be that a vinyl must not meet. */
export const fabricTraits = ['long pile', 'short pile', 'mesh', 'stretch', 'nylon', 'coated', 'heat shy'] as const;
export type FabricTrait = (typeof fabricTraits)[number];

/** What is known of the film itself. Lengths in µm, heat in thousandths of a degree Celsius. */
export type Facts = {
  /** Thickness of what is cut. */
  filmUm: Micrometres;
  /** Thickness of what it rides on. */
  carrierUm: Micrometres;
  /** Narrowest line that weeds, and narrowest gap that stays open. */
  minFeatureUm: Micrometres;
  minGapUm: Micrometres;
  /** How far an edge moves outward when it is pressed. */
  growthUm: Micrometres;
  /** Shortest piece that feeds. */
  minLengthUm: Micrometres;
  opacity: 'opaque' | 'translucent' | 'clear';
  /** How fast a blade dulls on it, against plain film. */
  wear: number;
  /** How well it holds on its carrier. */
  tack: 'low' | 'medium' | 'high';
  /** Coldest and hottest press it takes; undefined where nothing is pressed. */
  heat: { from: MilliCelsius; to: MilliCelsius } | undefined;
  /** Fabrics it must not meet. */
  notOn: readonly FabricTrait[];
  /** Where crafters go two ways at the cutter. */
  cutSchools: readonly CutSchool[];
  /** Why these values. */
  factsBecause: string;
};

export type CutSchool = { key: string; says: string; because: string };

const heat = (from: number, to: number) => ({ from: fahrenheitToMilliCelsius(from), to: fahrenheitToMilliCelsius(to) });
const plain: Facts = {
  filmUm: 80,
  carrierUm: 75,
  minFeatureUm: 1000,
  minGapUm: 500,
  growthUm: 0,
  minLengthUm: 0,
  opacity: 'opaque',
  wear: 1,
  tack: 'medium',
  heat: heat(290, 350),
  notOn: ['long pile', 'nylon', 'coated', 'heat shy'],
  cutSchools: [],
  factsBecause: 'the film that others are measured by; lines under a millimetre tear in weeding',
};
const stuck: Facts = {
  ...plain,
  heat: undefined,
  carrierUm: 90,
  notOn: ['long pile', 'short pile', 'mesh', 'stretch', 'nylon', 'coated', 'heat shy'],
  factsBecause: 'sticks by itself, to smooth hard surfaces only',
};

/** Source of every value: common practice, no published source. The leaflet of the vinyl in hand comes first. */
export const typeFacts: Record<VinylTypeKey, Facts> = {
  smooth: {
    ...plain,
    cutSchools: [
      {
        key: 'as-it-is',
        says: 'the maker’s place for plain film',
        because: 'the carrier stays whole with room to spare',
      },
      { key: 'one-more', says: 'one step of pressure more', because: 'small parts come away more cleanly' },
    ],
  },
  glitter: {
    ...plain,
    filmUm: 250,
    minFeatureUm: 2000,
    minGapUm: 1200,
    wear: 2.5,
    heat: heat(300, 330),
    notOn: ['nylon', 'coated', 'heat shy'],
    factsBecause:
      'three times as thick and full of grain, which dulls the blade and swallows fine parts; it lies on fur',
  },
  'smooth-glitter': {
    ...plain,
    filmUm: 120,
    minFeatureUm: 1200,
    wear: 1.6,
    heat: heat(290, 320),
    factsBecause: 'a thin grain under a smooth face',
  },
  flock: {
    ...plain,
    filmUm: 450,
    minFeatureUm: 2500,
    minGapUm: 1500,
    wear: 1.5,
    tack: 'low',
    heat: heat(300, 330),
    notOn: ['nylon', 'coated', 'heat shy'],
    factsBecause: 'pile hides what is narrow, the carrier barely tacks; the one film for long fur beside glitter',
  },
  puff: {
    ...plain,
    filmUm: 300,
    minFeatureUm: 2500,
    minGapUm: 2500,
    growthUm: 800,
    wear: 1.2,
    heat: heat(270, 320),
    notOn: ['long pile', 'mesh', 'stretch', 'nylon', 'coated', 'heat shy'],
    factsBecause: 'an edge swells by most of a millimetre, so gaps close that are not left open',
  },
  'metallic-puff': {
    ...plain,
    filmUm: 320,
    minFeatureUm: 2500,
    minGapUm: 2500,
    growthUm: 700,
    wear: 1.4,
    heat: heat(275, 310),
    notOn: ['long pile', 'mesh', 'stretch', 'nylon', 'coated', 'heat shy'],
    cutSchools: [
      {
        key: 'plain-more',
        says: 'the place for plain film, more pressure',
        because: 'enough for the foil, and the carrier stays whole',
      },
      { key: 'glitter', says: 'the place for glitter', because: 'the foil tears where it is not cut right through' },
    ],
    factsBecause: 'puff under a foil that wrinkles where it is stretched',
  },
  holographic: {
    ...plain,
    filmUm: 110,
    minFeatureUm: 1500,
    minGapUm: 800,
    opacity: 'translucent',
    wear: 1.4,
    tack: 'low',
    heat: heat(300, 335),
    notOn: ['long pile', 'stretch', 'nylon', 'coated', 'heat shy'],
    cutSchools: [
      { key: 'glitter', says: 'the place for glitter', because: 'the film is stiff and wants the force' },
      {
        key: 'light-card',
        says: 'the place for light card',
        because: 'cut as glitter it came out badly: the carrier went with it',
      },
    ],
    factsBecause: 'stiff, tears at thin joints, lets colour through where it is clear',
  },
  foil: {
    ...plain,
    filmUm: 70,
    minFeatureUm: 1200,
    wear: 1.1,
    heat: heat(285, 320),
    factsBecause: 'thin and brittle: narrow lines crack',
  },
  reflective: {
    ...plain,
    filmUm: 140,
    minFeatureUm: 1500,
    wear: 2,
    heat: heat(285, 320),
    notOn: ['long pile', 'stretch', 'nylon', 'coated', 'heat shy'],
    factsBecause: 'glass beads dull the blade and crack on cloth that stretches',
  },
  printable: {
    ...plain,
    filmUm: 90,
    carrierUm: 100,
    minFeatureUm: 3000,
    minGapUm: 2000,
    heat: heat(310, 375),
    factsBecause: 'one shape with a margin round the print; loose letters need a mask',
  },
  'glitter-printable': {
    ...plain,
    filmUm: 220,
    carrierUm: 100,
    minFeatureUm: 3000,
    minGapUm: 2000,
    wear: 2.2,
    heat: heat(310, 375),
    notOn: ['nylon', 'coated', 'heat shy'],
    factsBecause: 'a print film with a grain, as hard on the blade as glitter',
  },
  matless: {
    ...plain,
    carrierUm: 150,
    minLengthUm: 120_000,
    heat: heat(290, 350),
    factsBecause: 'the stiff carrier feeds by itself, but only from a length that reaches the rollers',
  },
  'low-heat': {
    ...plain,
    heat: heat(250, 280),
    notOn: ['long pile', 'coated'],
    factsBecause: 'made for nylon and cloth that scorches; ordinary heat ruins it',
  },
  adhesive: { ...stuck },
  'budget-adhesive': {
    ...stuck,
    filmUm: 60,
    minFeatureUm: 1500,
    opacity: 'translucent',
    tack: 'low',
    factsBecause: 'thinner, so it stretches in weeding and shows what is under it',
  },
  'glitter-adhesive': {
    ...stuck,
    filmUm: 200,
    minFeatureUm: 2500,
    minGapUm: 1200,
    wear: 2.2,
    factsBecause: 'a grain on its face that transfer tape hardly holds',
  },
  'faux-leather': {
    ...plain,
    filmUm: 700,
    carrierUm: 0,
    minFeatureUm: 3000,
    minGapUm: 2000,
    wear: 2,
    tack: 'low',
    heat: heat(250, 275),
    notOn: ['long pile', 'mesh', 'stretch', 'heat shy'],
    factsBecause:
      'ten times as thick, no carrier, fuzz at the edge; it is glued or tied, and what lies on it is pressed low',
  },
  stencil: {
    ...stuck,
    filmUm: 80,
    opacity: 'translucent',
    tack: 'low',
    factsBecause: 'taken off again: it tacks lightly, and the edge must seal against paint',
  },
};
