import { fahrenheitToMilliCelsius, type Micrometres, type MilliCelsius } from '../units/index.ts';
import type { VinylTypeKey } from './types.ts';

/** What a fabric may be that a vinyl must not meet. */
export const fabricTraits = [
  'long pile',
  'short pile',
  'mesh',
  'stretch',
  'nylon',
  'coated',
  'heat shy',
  'pressed in parts',
] as const;
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
  /** Shortest piece that feeds; 0 where any does. */
  minLengthUm: Micrometres;
  /** How much longer than the design the piece must be, for the rollers. */
  leadUm: Micrometres;
  /** How wide it comes, where it is cut without a mat. */
  rollUm?: Micrometres;
  /** What its face is: it says what lies over fur and what shows the mark of a press. */
  face: 'smooth' | 'grain' | 'pile' | 'relief';
  opacity: 'opaque' | 'translucent' | 'clear';
  /** Its colour changes with the angle it is seen at. */
  shifts?: boolean;
  /** How fast a blade dulls on it, against plain film. */
  wear: number;
  /** How well it holds on its carrier. */
  tack: 'low' | 'medium' | 'high';
  /**
   * Coldest and hottest press it takes; undefined where nothing is pressed. Of a type it is where to look first; `said` where somebody
   * said it of the vinyl itself or of a type of their own: only then does it forbid anything.
   */
  heat: { from: MilliCelsius; to: MilliCelsius; said?: boolean } | undefined;
  /** Fabrics it must not meet. */
  notOn: readonly FabricTrait[];
  /** Where crafters go several ways at the cutter. */
  cutSchools: readonly School[];
  /** Why these values. */
  factsBecause: string;
};

/** One of several ways that crafters go; why, where anybody has said why. */
export type School = { key: string; says: string; because?: string };

const heat = (from: number, to: number) => ({ from: fahrenheitToMilliCelsius(from), to: fahrenheitToMilliCelsius(to) });
const plain: Facts = {
  filmUm: 80,
  carrierUm: 75,
  minFeatureUm: 1000,
  minGapUm: 500,
  growthUm: 0,
  minLengthUm: 0,
  leadUm: 0,
  face: 'smooth',
  opacity: 'opaque',
  wear: 1,
  tack: 'medium',
  heat: heat(290, 350),
  notOn: ['long pile', 'coated', 'heat shy'],
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

const printedCuts: readonly School[] = [
  { key: 'plain', says: 'as plain vinyl' },
  { key: 'adhesive', says: 'as stick-on vinyl' },
  { key: 'glitter-more', says: 'as glitter, a little stronger', because: 'where the film has a grain' },
];

/** Source of every value: common practice, no published source. The leaflet of the vinyl in hand comes first. */
export const typeFacts: Record<VinylTypeKey, Facts> = {
  smooth: {
    ...plain,
    cutSchools: [
      {
        key: 'as-it-is',
        says: 'as the cutter has it for plain vinyl',
      },
      { key: 'one-more', says: 'a little stronger than that', because: 'it cuts more cleanly' },
    ],
  },
  glitter: {
    ...plain,
    face: 'grain',
    filmUm: 250,
    minFeatureUm: 2000,
    minGapUm: 1200,
    wear: 2.5,
    heat: heat(300, 330),
    notOn: ['coated', 'heat shy'],
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
    face: 'pile',
    filmUm: 450,
    minFeatureUm: 2500,
    minGapUm: 1500,
    wear: 1.5,
    tack: 'low',
    heat: heat(300, 330),
    notOn: ['coated', 'heat shy'],
    factsBecause: 'pile hides what is narrow, the carrier barely tacks; with glitter the film for long fur',
  },
  puff: {
    ...plain,
    face: 'relief',
    filmUm: 300,
    minFeatureUm: 2500,
    minGapUm: 2500,
    growthUm: 800,
    wear: 1.2,
    heat: heat(270, 320),
    notOn: ['long pile', 'mesh', 'stretch', 'coated', 'heat shy'],
    factsBecause: 'an edge swells by most of a millimetre, so gaps close that are not left open',
  },
  'metallic-puff': {
    ...plain,
    face: 'relief',
    filmUm: 320,
    minFeatureUm: 2500,
    minGapUm: 2500,
    growthUm: 700,
    wear: 1.4,
    heat: heat(275, 310),
    notOn: ['long pile', 'stretch', 'coated', 'heat shy', 'pressed in parts'],
    cutSchools: [
      { key: 'plain-more', says: 'as plain vinyl, a little stronger' },
      { key: 'glitter', says: 'as glitter' },
    ],
    factsBecause: 'puff under a foil that wrinkles where it is stretched',
  },
  holographic: {
    ...plain,
    filmUm: 110,
    minFeatureUm: 1500,
    minGapUm: 800,
    opacity: 'translucent',
    shifts: true,
    wear: 1.4,
    tack: 'low',
    heat: heat(300, 335),
    notOn: ['long pile', 'stretch', 'coated', 'heat shy'],
    cutSchools: [
      { key: 'glitter', says: 'as glitter', because: 'it is thicker' },
      { key: 'light-card', says: 'as light card', because: 'cut as glitter it came out less well' },
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
    notOn: ['long pile', 'stretch', 'coated', 'heat shy'],
    factsBecause: 'glass beads dull the blade and crack on cloth that stretches',
  },
  printable: {
    ...plain,
    filmUm: 90,
    carrierUm: 100,
    minFeatureUm: 3000,
    minGapUm: 2000,
    heat: heat(310, 375),
    cutSchools: printedCuts,
    factsBecause: 'best as one shape with a margin round the print',
  },
  'glitter-printable': {
    ...plain,
    face: 'grain',
    filmUm: 220,
    carrierUm: 100,
    minFeatureUm: 3000,
    minGapUm: 2000,
    wear: 2.2,
    heat: heat(310, 375),
    notOn: ['coated', 'heat shy'],
    cutSchools: [printedCuts[2]!, ...printedCuts.slice(0, 2)],
    factsBecause: 'a print film with a grain, as hard on the blade as glitter',
  },
  matless: {
    ...plain,
    carrierUm: 150,
    leadUm: 43_000,
    rollUm: 330_200,
    heat: heat(290, 350),
    factsBecause: 'the stiff carrier feeds by itself, and wants a lead: 8½ in for a design 6¾ in high',
  },
  'low-heat': {
    ...plain,
    heat: heat(250, 280),
    notOn: ['long pile', 'coated'],
    factsBecause: 'pressed cool and fast; on nylon some hold and some do not',
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
    face: 'grain',
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
