/**
 * The vinyl types and what is known of each before anybody cuts it.
 *
 * `load`: where its clean window lies against plain smooth vinyl, in log load (0.25 is about a quarter more).
 * `gap`: median width τ₂ − τ₁ in log load between "just through" and "just scored".
 * `wanted`: through where the piece is to fall out of its carrier; clean (a kiss cut) when left out.
 * `cutFrom`: back means the vinyl lies face down on the mat and the artwork is mirrored.
 *
 * Source of every default: common practice, no published source. They are starting points for a prior whose spread is a
 * quarter of the cutter's range; the first graded coupon outweighs them.
 */
export type VinylType = {
  key: VinylTypeKey;
  word: string;
  cutFrom: 'back' | 'face';
  load: number;
  gap: number;
  wanted?: 'through';
};

export const vinylTypeKeys = [
  'smooth',
  'glitter',
  'smooth-glitter',
  'flock',
  'puff',
  'metallic-puff',
  'holographic',
  'foil',
  'reflective',
  'printable',
  'glitter-printable',
  'matless',
  'low-heat',
  'adhesive',
  'budget-adhesive',
  'glitter-adhesive',
  'faux-leather',
  'stencil',
] as const;
export type VinylTypeKey = (typeof vinylTypeKeys)[number];

export const vinylTypes: Record<VinylTypeKey, VinylType> = {
  smooth: { key: 'smooth', word: 'smooth', cutFrom: 'back', load: 0, gap: 0.42 },
  glitter: { key: 'glitter', word: 'glitter', cutFrom: 'back', load: 0.3, gap: 0.42 },
  'smooth-glitter': { key: 'smooth-glitter', word: 'smooth glitter', cutFrom: 'back', load: 0.15, gap: 0.42 },
  flock: { key: 'flock', word: 'flock', cutFrom: 'back', load: 0.4, gap: 0.45 },
  puff: { key: 'puff', word: 'puff', cutFrom: 'back', load: 0.2, gap: 0.45 },
  'metallic-puff': { key: 'metallic-puff', word: 'metallic puff', cutFrom: 'back', load: 0.25, gap: 0.42 },
  holographic: { key: 'holographic', word: 'holographic', cutFrom: 'back', load: 0.3, gap: 0.38 },
  foil: { key: 'foil', word: 'foil', cutFrom: 'back', load: 0, gap: 0.38 },
  reflective: { key: 'reflective', word: 'reflective', cutFrom: 'back', load: 0.05, gap: 0.4 },
  printable: { key: 'printable', word: 'printable', cutFrom: 'face', load: 0, gap: 0.4 },
  'glitter-printable': { key: 'glitter-printable', word: 'glitter printable', cutFrom: 'face', load: 0.35, gap: 0.4 },
  matless: { key: 'matless', word: 'matless', cutFrom: 'back', load: 0.05, gap: 0.5 },
  'low-heat': { key: 'low-heat', word: 'low heat', cutFrom: 'back', load: 0, gap: 0.42 },
  adhesive: { key: 'adhesive', word: 'adhesive', cutFrom: 'face', load: -0.25, gap: 0.42 },
  'budget-adhesive': { key: 'budget-adhesive', word: 'budget adhesive', cutFrom: 'face', load: -0.4, gap: 0.35 },
  'glitter-adhesive': { key: 'glitter-adhesive', word: 'glitter adhesive', cutFrom: 'face', load: 0.2, gap: 0.4 },
  'faux-leather': {
    key: 'faux-leather',
    word: 'faux leather',
    cutFrom: 'back',
    load: 0.9,
    gap: 0.5,
    wanted: 'through',
  },
  stencil: { key: 'stencil', word: 'stencil film', cutFrom: 'face', load: -0.2, gap: 0.42 },
};

/**
 * Whether a film is cut mirrored: what lies face down is, unless the drawing is mirrored already.
 * @example cutMirrored('back', true) // false
 */
export const cutMirrored = (cutFrom: VinylType['cutFrom'], drawnMirrored = false): boolean =>
  (cutFrom === 'back') !== drawnMirrored;

/**
 * What is wanted of a type when nobody says otherwise.
 * @example wantedOfType('faux-leather') // 'through'
 */
export const wantedOfType = (type: VinylTypeKey): 'clean' | 'through' => vinylTypes[type].wanted ?? 'clean';
