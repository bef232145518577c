import type { VinylTypeKey } from '#core/vinyls/index.ts';

/**
 * The demo: two workshops that decorate sashes, drum covers and lantern panels for a night parade of boats on a river.
 * Every name here is invented.
 */
export type DemoVinyl = {
  brand: string;
  name: string;
  type: VinylTypeKey;
  colour: string;
  hex: string;
  /** Hidden from the product: where the film is through and where the carrier is scored, as a log load against plain vinyl. */
  truth: { centre: number; gap: number; sigma: number };
};

export const vinyls: DemoVinyl[] = [
  {
    brand: 'Quillow',
    name: 'Drift',
    type: 'holographic',
    colour: 'clear shimmer',
    hex: '#cfc4ea',
    truth: { centre: 0.34, gap: 0.4, sigma: 0.05 },
  },
  {
    brand: 'Ferrule & Sons',
    name: 'Starling',
    type: 'glitter',
    colour: 'ember red',
    hex: '#b0203a',
    truth: { centre: 0.29, gap: 0.44, sigma: 0.06 },
  },
  {
    brand: 'Tansy',
    name: 'Loft',
    type: 'puff',
    colour: 'maize',
    hex: '#e0ac33',
    truth: { centre: 0.2, gap: 0.46, sigma: 0.06 },
  },
  {
    brand: 'Moss & Nap',
    name: 'Understory',
    type: 'flock',
    colour: 'deep fir',
    hex: '#2f5a45',
    truth: { centre: 0.44, gap: 0.5, sigma: 0.07 },
  },
  {
    brand: 'Ferrule & Sons',
    name: 'Plain',
    type: 'smooth',
    colour: 'navy',
    hex: '#1e3a70',
    truth: { centre: 0.04, gap: 0.44, sigma: 0.05 },
  },
  {
    brand: 'Pagewell',
    name: 'Dark',
    type: 'printable',
    colour: 'white',
    hex: '#f4f1ea',
    truth: { centre: 0.02, gap: 0.26, sigma: 0.09 },
  },
  {
    brand: "Ha'penny",
    name: 'Roll',
    type: 'budget-adhesive',
    colour: 'brick',
    hex: '#d9583b',
    truth: { centre: -0.47, gap: 0.34, sigma: 0.06 },
  },
  {
    brand: 'Brindlewick',
    name: 'Mirror',
    type: 'foil',
    colour: 'old gold',
    hex: '#c29a3a',
    truth: { centre: 0.05, gap: 0.36, sigma: 0.05 },
  },
  {
    brand: 'Tansy',
    name: 'Loft Bright',
    type: 'metallic-puff',
    colour: 'copper',
    hex: '#b36a3f',
    truth: { centre: 0.3, gap: 0.4, sigma: 0.07 },
  },
  {
    brand: 'Otterley',
    name: 'Cling',
    type: 'adhesive',
    colour: 'reed green',
    hex: '#6f8f4a',
    truth: { centre: -0.2, gap: 0.42, sigma: 0.05 },
  },
  {
    brand: 'Quillow',
    name: 'Fine Frost',
    type: 'smooth-glitter',
    colour: 'river ice',
    hex: '#9fc3cf',
    truth: { centre: 0.16, gap: 0.42, sigma: 0.06 },
  },
  {
    brand: 'Saddlery Lane',
    name: 'Thin Hide',
    type: 'faux-leather',
    colour: 'chestnut',
    hex: '#7a4a2b',
    truth: { centre: 0.82, gap: 0.5, sigma: 0.08 },
  },
  {
    brand: 'Nightferry',
    name: 'Glint',
    type: 'reflective',
    colour: 'lamp silver',
    hex: '#a3abb5',
    truth: { centre: 0.08, gap: 0.4, sigma: 0.05 },
  },
];

export type DemoCoupon = { vinyl: string; daysAgo: number; cells: number; grade: number; slip?: number };
export type DemoPerson = {
  email: string;
  name: string;
  about: string;
  cutter: { model: string; name: string; blade: string; angle: string; used: string; bias: number };
  coupons: DemoCoupon[];
  keep: string[];
};

/** `grade`: how many cells are graded. `slip`: a cell that was graded against all others. */
export const people: DemoPerson[] = [
  {
    email: 'ottoline@parade.example',
    name: 'Ottoline Brask',
    about: 'a dozen vinyls on a Marlow 24',
    cutter: { model: 'marlow-24', name: 'Marlow 24', blade: 'second blade', angle: '45', used: '17', bias: 0.02 },
    coupons: [
      { vinyl: 'Plain', daysAgo: 41, cells: 6, grade: 6 },
      { vinyl: 'Plain', daysAgo: 37, cells: 6, grade: 6 },
      { vinyl: 'Drift', daysAgo: 33, cells: 6, grade: 6 },
      { vinyl: 'Drift', daysAgo: 30, cells: 6, grade: 6 },
      { vinyl: 'Drift', daysAgo: 12, cells: 4, grade: 4 },
      { vinyl: 'Loft', daysAgo: 26, cells: 6, grade: 6 },
      { vinyl: 'Roll', daysAgo: 22, cells: 6, grade: 6 },
      { vinyl: 'Roll', daysAgo: 21, cells: 5, grade: 5 },
      { vinyl: 'Dark', daysAgo: 16, cells: 6, grade: 6, slip: 3 },
      { vinyl: 'Dark', daysAgo: 15, cells: 6, grade: 6, slip: 2 },
      { vinyl: 'Mirror', daysAgo: 9, cells: 3, grade: 3 },
      { vinyl: 'Cling', daysAgo: 6, cells: 6, grade: 6 },
      { vinyl: 'Thin Hide', daysAgo: 3, cells: 4, grade: 3 },
      { vinyl: 'Starling', daysAgo: 2, cells: 6, grade: 6 },
      { vinyl: 'Starling', daysAgo: 1, cells: 6, grade: 5 },
    ],
    keep: ['Plain', 'Drift', 'Roll', 'Starling'],
  },
  {
    email: 'jory@parade.example',
    name: 'Jory Penhale',
    about: 'a few vinyls on an Oxbow Dial',
    cutter: {
      model: 'oxbow-dial',
      name: 'Little Dial',
      blade: 'blade from the box',
      angle: '45',
      used: '31',
      bias: -0.06,
    },
    coupons: [
      { vinyl: 'Plain', daysAgo: 28, cells: 6, grade: 6 },
      { vinyl: 'Starling', daysAgo: 19, cells: 6, grade: 6 },
      { vinyl: 'Understory', daysAgo: 5, cells: 6, grade: 6 },
      { vinyl: 'Fine Frost', daysAgo: 1, cells: 6, grade: 0 },
    ],
    keep: ['Plain', 'Starling'],
  },
];

export const password = 'lantern-river-7';
