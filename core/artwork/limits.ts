/** A drawing that cannot be used: says what is wrong with it, and where that helps. */
export class ArtworkError extends Error {
  override name = 'ArtworkError';
}

/** What is lettered: letters of one text, and bytes of a font of one's own. */
export const letteringLimits = { letters: 60, font: 8_000_000 };

/** What a drawing may hold at most. A detailed one has some thousand elements and 50 000 points. */
export const artworkLimits = {
  /** Length of its text. */
  bytes: 3_000_000,
  elements: 30_000,
  depth: 120,
  /** Shapes once every `use` stands for what it shows. */
  shapes: 30_000,
  /** How deep `use` may lead to another `use`. */
  uses: 16,
  /** Points of its outlines, curves taken as chords. */
  points: 120_000,
  /** Times its outlines cross one another before they are joined. */
  crossings: 12_000,
  /** Lines that lie side by side, at every height where one ends, in all: see `sweepCost`. About four seconds. */
  sweep: 20_000_000,
  /** Dashes that are drawn one by one. */
  dashes: 4_000,
  /** Length of its text once entities stand for what they mean. */
  expanded: 6_000_000,
  /** Rules of its style sheets; comparisons of a rule with a shape. */
  rules: 2_000,
  comparisons: 2_000_000,
  /** Colours: a vinyl for each, as many as a job has layers. */
  layers: 12,
};
