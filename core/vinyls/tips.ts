import type { Facts } from './facts.ts';
import type { VinylTypeKey } from './types.ts';

/** What a statement rests on: what crafters do and say, a guess of ours that a person may overrule, or a published standard. */
export const bases = ['common practice', 'judgement', 'standard'] as const;
export type Basis = (typeof bases)[number];

/**
 * When the hands need a tip. design: before anything is cut; bare: while the bare blank is pressed; blank: when the blank is first in the hands;
 * backing: when a film comes off its backing; press: before the press is closed on a film; peel: once it is open again; lay: when it is laid by hand.
 */
export const moments = [
  'design',
  'trim',
  'mat',
  'cut',
  'lift',
  'weed',
  'bare',
  'blank',
  'backing',
  'press',
  'peel',
  'lay',
] as const;
export type Moment = (typeof moments)[number];

/** One line for the hands, at the moment when they need it. */
export type Tip = {
  /** What it is known by. */
  key: string;
  at: Moment;
  says: string;
  basis: Basis;
  /** Only for films with such a face; not for films with such a face. */
  faces?: readonly Facts['face'][];
  notFaces?: readonly Facts['face'][];
};

const tip = (at: Moment, key: string, says: string, basis: Basis = 'common practice'): Tip => ({
  key,
  at,
  says,
  basis,
});

const printed: readonly Tip[] = [
  tip('backing', 'off its backing', 'Take the film off its backing before you press: pressed with it, both are lost.'),
  tip('backing', 'loose letters', 'One piece goes by hand; many loose letters can be lifted with a mask sheet.'),
  tip('mat', 'same place', 'Lay it on the mat where the screen shows it, or the cut misses the print.'),
  tip('weed', 'ink scratches', 'Keep your nails off the print: the ink scratches until it is pressed.'),
];

/** What to watch with each type, the costliest first. */
export const typeTips: Record<VinylTypeKey, readonly Tip[]> = {
  smooth: [tip('peel', 'thin lines', 'Thin lines need longer heat than wide ones: if a corner lifts, press it again.')],
  glitter: [
    tip('design', 'fine parts', 'Fine parts get lost in the grain: leave lines and gaps wide.'),
    tip('weed', 'weeds hard', 'It weeds hard: go slowly from a corner.'),
  ],
  'smooth-glitter': [
    tip('peel', 'only tacked', 'As a base it is only tacked: it is not fully stuck until the last press.'),
  ],
  flock: [
    tip('design', 'thick outlines', 'The pile hides detail: thick outlines only.'),
    tip('press', 'hold the carrier', 'The carrier hardly sticks: hold it down while you lay the piece.'),
  ],
  puff: [
    tip('design', 'nothing on top', 'It rises under the press: nothing can lie on top of it afterwards.'),
    tip('design', 'grows', 'It grows: leave gaps open, and do not make the design much smaller.'),
    tip('press', 'hard and dry', 'A hard, smooth, flat support below, all of it dry.'),
  ],
  'metallic-puff': [
    tip(
      'press',
      'board',
      'A hard smooth board below, an inch (25 mm) thick, never a pad; all of it well inside the plate, never in parts.',
    ),
    tip(
      'peel',
      'will not come off',
      'A part will not come off its carrier? That part once more through the carrier, up to 10 s: it does not rise from that.',
    ),
    tip('design', 'wrinkles stay', 'A wrinkle cannot be mended: leave room inside the plate.'),
  ],
  holographic: [
    tip('weed', 'thin joints', 'It tears at thin joints: pull outward, slowly.'),
    tip('press', 'heat tape', 'Its carrier may not stick: heat tape holds it.'),
    tip('peel', 'cold again', 'Pressed again, it must be cold again before you peel.'),
    tip('design', 'shows through', 'The translucent kind takes the colour of what is under it.'),
  ],
  foil: [tip('weed', 'finger marks', 'Scratches and finger marks stay: hold it by the carrier.', 'judgement')],
  reflective: [tip('press', 'creases', 'Lay it without a crease: creases show as dark lines.', 'judgement')],
  printable: printed,
  'glitter-printable': [
    ...printed,
    tip('cut', 'as glitter', 'Cut it as glitter, a little stronger, not as a print film.'),
  ],
  matless: [
    tip('design', 'lead', 'The cutter needs 1.7 in (43 mm) more than the design is high: 8½ in for 6¾.'),
    tip('cut', 'curls', 'Hold it flat where it goes in: film that curls runs under the blade.'),
    tip('weed', 'thick carrier', 'The carrier is thick: weed slowly.'),
    tip('peel', 'almost cold', 'Let it get almost cold before you peel.'),
  ],
  'low-heat': [tip('press', 'little heat', 'It needs little heat. A little more did no harm.')],
  adhesive: [
    tip('design', 'small on stretchy', 'Stretchy surfaces fight it: small pieces only.'),
    tip('design', 'slit the tape', 'On a round one slit the transfer tape, never the film.'),
  ],
  'budget-adhesive': [
    tip('design', 'shows through', 'On a dark surface it shows through.'),
    tip('cut', 'thin', 'It is thin: what cuts plain stick-on film cuts its backing, too.'),
    tip('lay', 'bubbles', 'It is thin and bubbles easily: small strokes, from the middle out.'),
  ],
  'glitter-adhesive': [tip('design', 'no tape', 'No transfer tape that was tried holds on its grain.')],
  'faux-leather': [
    tip('mat', 'tape the edges', 'Tape all four edges down before it goes in: it creeps under the blade.'),
    tip('lift', 'check first', 'Check before you unload, and run it again where it holds.'),
    tip('weed', 'fuzz', 'Trim the fuzz along the edge by hand.'),
    tip('design', 'glued', 'Halves are glued, an hour under a weight. Nothing bonds it to cloth.'),
  ],
  stencil: [tip('design', 'paint', 'Paint that does not suit the surface comes off with the film: try a corner.')],
};

/** What holds whatever is cut on a mat: how it comes off. */
export const unloadTip = tip(
  'weed',
  'roll the mat off',
  'Turn it over and roll the mat off the vinyl, not the vinyl off the mat.',
);
