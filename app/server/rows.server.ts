import { strengthAxis, type CutterModel } from '#core/controls/index.ts';
import { leanStrip, listDomain, type LeanStrip } from '#core/strip/index.ts';
import { leanPress, type LeanPress } from '../ui/vinyls/sayPress.ts';
import type { VinylRow } from '#work/answer/list.ts';
import { sayAnswer } from '../ui/answer/sayAnswer.ts';

/** A vinyl as a row shows it: what is drawn, and nothing of what it was computed from. */
export type LeanRow = Pick<
  VinylRow,
  'id' | 'brand' | 'name' | 'type' | 'typeWord' | 'colour' | 'from' | 'crafters' | 'standing' | 'adopted' | 'imported'
> & {
  /** Cells and coupons it rests on. */
  cells: number;
  coupons: number;
  strip: LeanStrip | undefined;
  /** The numbers of the camps, where crafters differ. */
  camps: string | undefined;
  press: LeanPress | undefined;
};

/** Rows of one list on the cutter on the bench: their strips lie on one stretch of its axis. */
export function leanRows(rows: readonly VinylRow[], model: CutterModel | undefined): LeanRow[] {
  const axis = model && strengthAxis(model);
  const domain =
    axis &&
    listDomain(
      axis,
      rows.map((r) => r.result),
    );
  return rows.map((r) => ({
    id: r.id,
    brand: r.brand,
    name: r.name,
    type: r.type,
    typeWord: r.typeWord,
    colour: r.colour,
    from: r.from,
    crafters: r.crafters,
    standing: r.standing,
    adopted: r.adopted,
    imported: r.imported,
    cells: r.result?.evidence.cells ?? 0,
    coupons: r.result?.evidence.coupons ?? 0,
    strip: axis && domain && r.result && leanStrip(axis, r.result, domain, r.answer.position),
    camps: axis && r.answer.camps && sayAnswer(axis, r.answer),
    press: r.press && leanPress(r.press),
  }));
}
