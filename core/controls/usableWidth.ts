import type { CutterModel } from './model.ts';

/** How wide the cutters cut that ship with the product, µm. Invented, as they are; a published version of a model never changes, so it stands here. */
const shipped: Record<string, number> = {
  'marlow-24': 600_000,
  'oxbow-dial': 292_000,
  'pellam-leaf': 292_000,
  'sorrel-custom': 292_000,
  'whin-duo': 330_000,
};

/** How wide a cutter of this model cuts, µm; undefined where nobody says. */
export const usableWidth = (model: Pick<CutterModel, 'key' | 'usableWidthUm'>): number | undefined =>
  model.usableWidthUm ?? shipped[model.key];
