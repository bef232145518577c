export const sectionDefaults = {
  /** By how much one part of a press overlaps the next, µm. Common practice, no source: a finger's width. */
  overlapUm: 12_000,
};

/**
 * In how many parts a design is pressed by a plate that is smaller than it is, turned whichever way takes fewer; 1 where it closes over all of it.
 * Source: sections that overlap are common practice, no source.
 */
export function sectionsOf(
  design: { widthUm: number; heightUm: number },
  plate: { widthUm: number; lengthUm: number },
): number {
  const { overlapUm } = sectionDefaults;
  const along = (of: number, one: number) =>
    of <= one ? 1 : Math.ceil((of - overlapUm) / Math.max(1, one - overlapUm));
  const { widthUm: w, lengthUm: l } = plate;
  return Math.min(
    along(design.widthUm, w) * along(design.heightUm, l),
    along(design.widthUm, l) * along(design.heightUm, w),
  );
}
