import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { Grade } from '#core/grades/index.ts';

/**
 * The demo: workshops that decorate sashes, drum covers and lantern panels for a night parade of boats on a river.
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

type Row = [
  brand: string,
  name: string,
  type: VinylTypeKey,
  colour: string,
  hex: string,
  centre: number,
  gap: number,
  sigma: number,
];
const rows: Row[] = [
  ['Quillow', 'Drift', 'holographic', 'clear shimmer', '#cfc4ea', 0.34, 0.4, 0.05],
  ['Ferrule & Sons', 'Starling', 'glitter', 'ember red', '#b0203a', 0.29, 0.44, 0.06],
  ['Tansy', 'Loft', 'puff', 'maize', '#e0ac33', 0.2, 0.46, 0.06],
  ['Moss & Nap', 'Understory', 'flock', 'deep fir', '#2f5a45', 0.44, 0.5, 0.07],
  ['Ferrule & Sons', 'Plain', 'smooth', 'navy', '#1e3a70', 0.04, 0.44, 0.05],
  ['Pagewell', 'Dark', 'printable', 'white', '#f4f1ea', 0.02, 0.26, 0.09],
  ["Ha'penny", 'Roll', 'budget-adhesive', 'brick', '#d9583b', -0.47, 0.34, 0.06],
  ['Brindlewick', 'Mirror', 'foil', 'old gold', '#c29a3a', 0.05, 0.36, 0.05],
  ['Tansy', 'Loft Bright', 'metallic-puff', 'copper', '#b36a3f', 0.3, 0.4, 0.07],
  ['Otterley', 'Cling', 'adhesive', 'reed green', '#6f8f4a', -0.2, 0.42, 0.05],
  ['Quillow', 'Fine Frost', 'smooth-glitter', 'river ice', '#9fc3cf', 0.16, 0.42, 0.06],
  ['Saddlery Lane', 'Thin Hide', 'faux-leather', 'chestnut', '#7a4a2b', 0.42, 0.4, 0.07],
  ['Nightferry', 'Glint', 'reflective', 'lamp silver', '#a3abb5', 0.08, 0.4, 0.05],
  ['Pagewell', 'Sparkle Sheet', 'glitter-printable', 'white', '#efece2', 0.37, 0.38, 0.07],
  ['Plainsong', 'Walkabout', 'matless', 'slate', '#4b5560', 0.06, 0.5, 0.05],
  ['Plainsong', 'Cool Iron', 'low-heat', 'sorbet', '#e58f9b', 0.01, 0.42, 0.05],
  ['Otterley', 'Cling Glint', 'glitter-adhesive', 'kingfisher', '#1f7fa3', 0.18, 0.4, 0.06],
  ['Cutwater', 'Mask', 'stencil', 'fog', '#c9ced0', -0.21, 0.42, 0.05],
  ['Quillow', 'Drift Deep', 'holographic', 'midnight', '#3a3560', 0.4, 0.36, 0.06],
  ['Ferrule & Sons', 'Starling', 'glitter', 'gold', '#c99a2c', 0.37, 0.42, 0.06],
  ['Ferrule & Sons', 'Plain', 'smooth', 'chalk', '#f3efe4', 0.02, 0.44, 0.05],
  ['Ferrule & Sons', 'Plain Wide', 'smooth', 'soot', '#26262a', 0.05, 0.44, 0.05],
  ['Brindlewick', 'Mirror', 'foil', 'rose', '#d48c90', 0.03, 0.36, 0.05],
  ['Moss & Nap', 'Understory', 'flock', 'fox', '#a5522d', 0.46, 0.5, 0.07],
  ['Tansy', 'Loft', 'puff', 'poppy', '#cf3f35', 0.22, 0.46, 0.06],
  ["Ha'penny", 'Roll', 'budget-adhesive', 'sky', '#6fa9d6', -0.45, 0.34, 0.06],
  ["Ha'penny", 'Press-On', 'smooth', 'leaf', '#5b9a4b', -0.08, 0.32, 0.07],
  ['Otterley', 'Cling', 'adhesive', 'bone', '#ece5d3', -0.22, 0.42, 0.05],
  ['Nightferry', 'Beacon', 'reflective', 'amber', '#d99a2b', 0.12, 0.4, 0.05],
  ['Larkfield', 'Soft Film', 'smooth', 'heather', '#8d7aa8', -0.03, 0.46, 0.05],
  ['Larkfield', 'Soft Glitter', 'smooth-glitter', 'plum', '#6d3457', 0.19, 0.42, 0.06],
  ['Larkfield', 'Crumb', 'glitter', 'frost', '#cfd8dc', 0.24, 0.44, 0.06],
  ['Saddlery Lane', 'Thin Hide', 'faux-leather', 'ink', '#2b2f3a', 0.46, 0.4, 0.07],
  ['Pagewell', 'Light', 'printable', 'clear', '#e9eef0', -0.04, 0.34, 0.06],
  ['Cutwater', 'Dry Edge', 'stencil', 'sand', '#d8c39a', -0.17, 0.42, 0.05],
  ['Plainsong', 'Walkabout', 'matless', 'beet', '#8a2f4f', 0.09, 0.5, 0.05],
];
export const vinyls: DemoVinyl[] = rows.map(([brand, name, type, colour, hex, centre, gap, sigma]) => ({
  brand,
  name,
  type,
  colour,
  hex,
  truth: { centre, gap, sigma },
}));
/** How a vinyl is called below: "Starling, gold". */
export const keyOf = (v: Pick<DemoVinyl, 'name' | 'colour'>): string => `${v.name}, ${v.colour}`;

type DemoCoupon = {
  vinyl: string;
  daysAgo: number;
  cells: number;
  grade: number;
  slip?: number;
  /** How much heavier than others this person finds it, log load. */
  lean?: number;
};
export type DemoCut = { vinyl: string; daysAgo: number; grade?: Grade };
export type DemoPerson = {
  email: string;
  name: string;
  about: string;
  cutter: { model: string; name: string; blade: string; angle: string; used: string; bias: number };
  coupons: DemoCoupon[];
  keep: string[];
  /** A year of work with a kept number: good cuts spread over it, then what was seen last, the newest at the end. */
  year?: [vinyl: string, good: number, ...late: Grade[]][];
  cuts: DemoCut[];
  schools: [vinyl: string, topic: string, way: string][];
  stock: (Record<string, string> & { vinyl: string })[];
  mats: Record<string, string>[];
  presses: Record<string, string>[];
  /** What a kitchen scale showed: place on the axis, grams. */
  scale: [strength: string, grams: string][];
  /** Kept numbers put on the shelf. */
  cards: {
    vinyl: string;
    daysAgo: number;
    licence: 'read' | 'cc-by' | 'cc-by-sa' | 'cc0';
    visibility?: 'link' | 'private';
    conditions?: string;
  }[];
};
/** Somebody who adopts the cards of others and cuts with them. */
export type DemoHelper = {
  email: string;
  name: string;
  cutter: DemoPerson['cutter'];
  cuts: { card: string; of: string; daysAgo: number; grade: Grade; said?: string }[];
};

/** `grade`: how many cells are graded. `slip`: a cell that was graded against all others. */
export const people: DemoPerson[] = [
  {
    email: 'ottoline@parade.example',
    name: 'Ottoline Brask',
    about: 'a dozen vinyls on a Marlow 24, force by number',
    cutter: { model: 'marlow-24', name: 'Marlow 24', blade: 'second blade', angle: '45', used: '17', bias: 0.02 },
    coupons: [
      { vinyl: 'Plain, navy', daysAgo: 361, cells: 6, grade: 6 },
      { vinyl: 'Plain, navy', daysAgo: 357, cells: 6, grade: 6 },
      { vinyl: 'Drift, clear shimmer', daysAgo: 33, cells: 6, grade: 6 },
      { vinyl: 'Drift, clear shimmer', daysAgo: 30, cells: 6, grade: 6 },
      { vinyl: 'Drift, clear shimmer', daysAgo: 12, cells: 4, grade: 4 },
      { vinyl: 'Loft, maize', daysAgo: 26, cells: 6, grade: 6 },
      { vinyl: 'Roll, brick', daysAgo: 352, cells: 6, grade: 6 },
      { vinyl: 'Roll, brick', daysAgo: 351, cells: 5, grade: 5 },
      { vinyl: 'Dark, white', daysAgo: 16, cells: 6, grade: 6, slip: 3 },
      { vinyl: 'Dark, white', daysAgo: 15, cells: 6, grade: 6, slip: 2 },
      { vinyl: 'Mirror, old gold', daysAgo: 344, cells: 6, grade: 6 },
      { vinyl: 'Cling, reed green', daysAgo: 342, cells: 6, grade: 6 },
      { vinyl: 'Thin Hide, chestnut', daysAgo: 4, cells: 6, grade: 6 },
      { vinyl: 'Glint, lamp silver', daysAgo: 3, cells: 4, grade: 3 },
      { vinyl: 'Starling, gold', daysAgo: 14, cells: 6, grade: 6 },
      { vinyl: 'Starling, gold', daysAgo: 13, cells: 6, grade: 6 },
      { vinyl: 'Starling, ember red', daysAgo: 2, cells: 6, grade: 6 },
      { vinyl: 'Starling, ember red', daysAgo: 1, cells: 6, grade: 5 },
    ],
    keep: [
      'Plain, navy',
      'Drift, clear shimmer',
      'Roll, brick',
      'Starling, ember red',
      'Cling, reed green',
      'Mirror, old gold',
    ],
    year: [
      ['Plain, navy', 16],
      ['Roll, brick', 13],
      ['Cling, reed green', 12],
      ['Mirror, old gold', 11, 'hangs', 'hangs', 'hangs'],
    ],
    cuts: [
      { vinyl: 'Plain, navy', daysAgo: 29, grade: 'clean' },
      { vinyl: 'Plain, navy', daysAgo: 24, grade: 'clean' },
      { vinyl: 'Plain, navy', daysAgo: 18, grade: 'clean' },
      { vinyl: 'Drift, clear shimmer', daysAgo: 10, grade: 'clean' },
      { vinyl: 'Drift, clear shimmer', daysAgo: 8, grade: 'hangs' },
      { vinyl: 'Roll, brick', daysAgo: 5, grade: 'clean' },
      { vinyl: 'Drift, clear shimmer', daysAgo: 1 },
    ],
    schools: [
      ['Drift, clear shimmer', 'press', '320 15-20'],
      ['Drift, clear shimmer', 'cut', 'glitter'],
      ['Plain, navy', 'press', '305 10-15'],
    ],
    stock: [
      {
        vinyl: 'Plain, navy',
        kind: 'roll',
        width: '305',
        length: '5 m',
        batch: 'B-1107',
        price: '14.50',
        currency: 'EUR',
      },
      { vinyl: 'Plain, chalk', kind: 'roll', width: '305', length: '2 m', batch: '', price: '', currency: '' },
      {
        vinyl: 'Drift, clear shimmer',
        kind: 'sheet',
        width: '305',
        length: '305',
        batch: 'K4',
        price: '3.20',
        currency: 'EUR',
      },
      { vinyl: 'Starling, ember red', kind: 'offcut', width: '180', length: '240', batch: '', price: '', currency: '' },
      {
        vinyl: 'Starling, gold',
        kind: 'roll',
        width: '305',
        length: '1 m',
        batch: 'G-22',
        price: '6.80',
        currency: 'EUR',
      },
      {
        vinyl: 'Cling, reed green',
        kind: 'transfer',
        width: '90',
        length: '140',
        batch: '',
        price: '',
        currency: '',
        pieces: '6',
        note: 'lantern fish',
      },
    ],
    mats: [
      { name: 'Old mat', grip: 'ordinary', width: '305', length: '305', loads: '29' },
      { name: 'Long mat', grip: 'high', width: '305', length: '610', loads: '4' },
    ],
    presses: [
      { name: 'Big plate', kind: 'plate', width: '380', length: '380', shows: 'C', hottest: '220', off: '-4' },
      { name: 'Hand press', kind: 'hand press', width: '230', length: '230', shows: 'F', hottest: '400', off: '0' },
      {
        name: 'Little press',
        kind: 'small press',
        width: '130',
        length: '90',
        shows: 'F',
        hottest: '360',
        off: '0',
      },
    ],
    scale: [
      ['40', '38'],
      ['80', '81'],
      ['130', '126'],
      ['180', '118'],
      ['240', '236'],
      ['320', '309'],
    ],
    cards: [
      { vinyl: 'Plain, navy', daysAgo: 27, licence: 'cc0' },
      {
        vinyl: 'Drift, clear shimmer',
        daysAgo: 11,
        licence: 'cc-by',
        conditions: 'Tears at thin joints. I weed outward from the middle, slowly.',
      },
      { vinyl: 'Roll, brick', daysAgo: 20, licence: 'cc-by' },
      { vinyl: 'Starling, ember red', daysAgo: 1, licence: 'read', visibility: 'private' },
    ],
  },
  {
    email: 'jory@parade.example',
    name: 'Jory Penhale',
    about: 'a few vinyls on an Oxbow Dial with half stops',
    cutter: {
      model: 'oxbow-dial',
      name: 'Little Dial',
      blade: 'blade from the box',
      angle: '45',
      used: '31',
      bias: -0.06,
    },
    coupons: [
      // Years ago, and never cut since: what was kept then is retired.
      { vinyl: 'Mask, fog', daysAgo: 1590, cells: 6, grade: 6 },
      { vinyl: 'Plain, navy', daysAgo: 348, cells: 6, grade: 6 },
      { vinyl: 'Starling, ember red', daysAgo: 339, cells: 6, grade: 6 },
      { vinyl: 'Understory, deep fir', daysAgo: 5, cells: 6, grade: 6 },
      { vinyl: 'Fine Frost, river ice', daysAgo: 1, cells: 6, grade: 0 },
    ],
    keep: ['Plain, navy', 'Starling, ember red', 'Mask, fog'],
    year: [
      ['Plain, navy', 13],
      ['Starling, ember red', 12],
    ],
    cuts: [{ vinyl: 'Plain, navy', daysAgo: 11, grade: 'clean' }],
    schools: [['Plain, navy', 'press', '350 30']],
    stock: [],
    mats: [{ name: 'Old mat', grip: 'ordinary', width: '305', length: '305', loads: '38' }],
    presses: [],
    scale: [],
    cards: [
      { vinyl: 'Plain, navy', daysAgo: 25, licence: 'cc-by-sa' },
      {
        vinyl: 'Starling, ember red',
        daysAgo: 17,
        licence: 'cc-by',
        conditions: 'Half stops matter here: a whole one is too much.',
      },
    ],
  },
  {
    email: 'sunniva@parade.example',
    name: 'Sunniva Tregear',
    about: 'picks materials from a list on a Pellam Leaf',
    cutter: { model: 'pellam-leaf', name: 'Kitchen Leaf', blade: 'fine point', angle: '45', used: '8', bias: 0.03 },
    coupons: [
      { vinyl: 'Plain, chalk', daysAgo: 343, cells: 6, grade: 6 },
      { vinyl: 'Starling, gold', daysAgo: 334, cells: 6, grade: 6 },
      { vinyl: 'Loft, poppy', daysAgo: 7, cells: 6, grade: 6 },
      { vinyl: 'Soft Film, heather', daysAgo: 2, cells: 5, grade: 2 },
    ],
    keep: ['Plain, chalk', 'Starling, gold'],
    year: [
      ['Plain, chalk', 14],
      ['Starling, gold', 12],
    ],
    cuts: [{ vinyl: 'Plain, chalk', daysAgo: 4, grade: 'clean' }],
    schools: [],
    stock: [],
    mats: [],
    presses: [],
    scale: [],
    cards: [{ vinyl: 'Plain, chalk', daysAgo: 19, licence: 'cc-by' }],
  },
  {
    email: 'corin@parade.example',
    name: 'Corin Amsel',
    about: 'blade, speed and pressure from minus to plus on a Whin Duo',
    cutter: { model: 'whin-duo', name: 'Attic Duo', blade: 'auto blade', angle: '60', used: '44', bias: -0.02 },
    coupons: [
      { vinyl: 'Plain Wide, soot', daysAgo: 340, cells: 6, grade: 6 },
      { vinyl: 'Crumb, frost', daysAgo: 333, cells: 6, grade: 6 },
      { vinyl: 'Mask, fog', daysAgo: 6, cells: 6, grade: 6 },
      { vinyl: 'Light, clear', daysAgo: 2, cells: 6, grade: 4 },
    ],
    keep: ['Plain Wide, soot', 'Crumb, frost'],
    year: [
      ['Plain Wide, soot', 10, 'scored', 'scored'],
      ['Crumb, frost', 12],
    ],
    cuts: [{ vinyl: 'Plain Wide, soot', daysAgo: 3, grade: 'scored' }],
    schools: [],
    stock: [],
    mats: [],
    presses: [],
    scale: [],
    cards: [
      { vinyl: 'Plain Wide, soot', daysAgo: 18, licence: 'cc-by' },
      { vinyl: 'Crumb, frost', daysAgo: 10, licence: 'read', visibility: 'link' },
    ],
  },
];

const marlow = (name: string, bias: number) => ({
  model: 'marlow-24',
  name,
  blade: 'a blade',
  angle: '45',
  used: '12',
  bias,
});
const oxbow = (name: string, bias: number) => ({
  model: 'oxbow-dial',
  name,
  blade: 'a blade',
  angle: '45',
  used: '9',
  bias,
});
/** They cut with what others have shared, and do not always find the same. */
export const helpers: DemoHelper[] = [
  {
    email: 'tamsin@parade.example',
    name: 'Tamsin Vole',
    cutter: marlow('Boathouse Marlow', 0.05),
    cuts: [
      { card: 'Plain, navy', of: 'ottoline@parade.example', daysAgo: 22, grade: 'clean' },
      {
        card: 'Drift, clear shimmer',
        of: 'ottoline@parade.example',
        daysAgo: 9,
        grade: 'clean',
        said: 'Clean on sashes, twice.',
      },
      {
        card: 'Roll, brick',
        of: 'ottoline@parade.example',
        daysAgo: 13,
        grade: 'scored',
        said: 'Went into the backing on mine. Four less did it.',
      },
    ],
  },
  {
    email: 'bram@parade.example',
    name: 'Bram Okell',
    cutter: marlow('Marlow of the drummers', -0.05),
    cuts: [
      { card: 'Plain, navy', of: 'ottoline@parade.example', daysAgo: 16, grade: 'clean' },
      {
        card: 'Drift, clear shimmer',
        of: 'ottoline@parade.example',
        daysAgo: 4,
        grade: 'hangs',
        said: 'The hole of small letters held on. A dull blade, I think.',
      },
    ],
  },
  {
    email: 'isolde@parade.example',
    name: 'Isolde Quay',
    cutter: oxbow('Quayside dial', 0.02),
    cuts: [
      { card: 'Plain, navy', of: 'jory@parade.example', daysAgo: 12, grade: 'clean' },
      {
        card: 'Starling, ember red',
        of: 'jory@parade.example',
        daysAgo: 8,
        grade: 'clean',
        said: 'Lanterns came out well.',
      },
      { card: 'Starling, ember red', of: 'jory@parade.example', daysAgo: 3, grade: 'clean' },
    ],
  },
];

/** Somebody who shares a few numbers: one coupon each, kept and put on the shelf. `lean`: cut the other way than most. */
const sharer = (
  name: string,
  cutter: DemoPerson['cutter'],
  vinyls: string[],
  lean: Record<string, number> = {},
): DemoPerson => ({
  email: `${name.split(' ')[0]!.toLowerCase()}@parade.example`,
  name,
  about: '',
  cutter,
  coupons: vinyls.map((vinyl, i) => ({
    vinyl,
    daysAgo: 40 - 3 * i,
    cells: 6,
    grade: 6,
    ...(lean[vinyl] === undefined ? {} : { lean: lean[vinyl] }),
  })),
  keep: vinyls,
  cuts: [],
  schools: [],
  stock: [],
  mats: [],
  presses: [],
  scale: [],
  cards: vinyls.map((vinyl, i) => ({ vinyl, daysAgo: 30 - 2 * i, licence: i % 2 ? 'cc0' : 'cc-by' })),
});
const machine = (model: string, name: string, bias: number): DemoPerson['cutter'] => ({
  model,
  name,
  blade: 'blade',
  angle: '45',
  used: '12',
  bias,
});
const bright = 'Loft Bright, copper';
/** The neighbourhood: what they share lets numbers be translated. Two ways of cutting metallic puff are both at home here. */
export const crowd: DemoPerson[] = [
  sharer(
    'Wenna Strake',
    machine('marlow-24', 'Slipway Marlow', 0.1),
    ['Plain, navy', 'Starling, ember red', bright, 'Understory, deep fir'],
    { [bright]: -0.36 },
  ),
  sharer('Hale Pinder', machine('marlow-24', 'Lock Marlow', -0.08), ['Plain, navy', 'Drift, clear shimmer', bright], {
    [bright]: -0.36,
  }),
  sharer(
    'Oriel Tansey',
    machine('oxbow-dial', 'Weir dial', 0.06),
    ['Plain, navy', 'Starling, ember red', bright, 'Cling, reed green'],
    { [bright]: 0.36 },
  ),
  sharer(
    'Perrin Wick',
    machine('oxbow-dial', 'Mill dial', -0.1),
    ['Plain, navy', 'Drift, clear shimmer', 'Understory, deep fir', bright],
    { [bright]: 0.36 },
  ),
  sharer(
    'Sorrel Dane',
    machine('sorrel-custom', 'Lantern Sorrel', 0.04),
    ['Plain, navy', 'Starling, ember red', 'Cling, reed green', bright],
    { [bright]: -0.36 },
  ),
  sharer(
    'Ivo Marl',
    machine('whin-duo', 'Cellar Duo', 0.08),
    ['Plain, navy', 'Drift, clear shimmer', 'Starling, ember red', bright],
    { [bright]: 0.36 },
  ),
];

/** What people ask under a card, and what its author answers: card, who asks (their place in the crowd), question, answer. */
export const questions: { card: string; of: string; asks: number; question: string; answer?: string }[] = [
  {
    card: 'Plain, navy',
    of: 'ottoline@parade.example',
    asks: 0,
    question: 'Does it still weed at letters of 8 mm?',
    answer: 'Down to 6 mm. Below that I go two steps lighter and slower.',
  },
  {
    card: 'Starling, ember red',
    of: 'jory@parade.example',
    asks: 1,
    question: 'With the blade from the box, or a steeper one?',
    answer: 'From the box. It is past thirty metres by now and still does it.',
  },
  {
    card: 'Plain Wide, soot',
    of: 'corin@parade.example',
    asks: 2,
    question: 'Has it gone deeper of late on yours too?',
  },
];
/** The same vinyl named twice, the second time with a slip of the pen: merged into the first. */
export const namedTwice = { brand: 'Ferrule and Sons', name: 'Starlng', of: 'Starling, ember red' };

export const password = 'lantern-river-7';

/** What leaflets say, and how crafters peel in turn: the first of `peels` is the first person's. */
export const leaflets: { vinyl: string; says: Record<string, string>; peels: string[] }[] = [
  {
    vinyl: 'Starling, ember red',
    says: {
      heat: '160',
      from: '12',
      to: '15',
      pressure: 'medium',
      peel: 'hot',
      blade: '60',
      source: 'leaflet in the roll',
    },
    peels: ['cool', 'cold', 'cool', 'cold', 'hot', 'cool', 'cool', 'cold', 'cool', 'cool', 'cold', 'cool'],
  },
  {
    vinyl: 'Loft, maize',
    says: { heat: '155', from: '10', to: '10', pressure: 'heavy', peel: 'warm', source: 'printed on the carrier' },
    peels: ['warm', 'warm', 'cool', 'warm'],
  },
];
