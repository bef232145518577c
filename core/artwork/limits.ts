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
  points: 250_000,
  layers: 24,
};
