import { zoneOf, type Evenness } from '#core/evenness/index.ts';
import { passesOf, strengthAxis } from '#core/controls/index.ts';
import { currentGrades } from '#core/grades/index.ts';
import { fitInputFrom } from '#core/window/index.ts';
import * as coupons from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import { evennessOnThread } from '#work/base/compute.ts';
import { couponModel } from './coupons.ts';
import type { Person } from '#work/people/person.ts';
import { evidenceFor } from './evidence.ts';

/** How evenly a cutter presses over its mat, as its last check shows. */
export type CutterEvenness = Evenness & { zone: string | undefined; graded: number };

/** What the cells of one coupon that lay all over the mat say; undefined until enough are graded, and for any other coupon. */
export async function evennessOf(person: Person | undefined, couponId: string): Promise<CutterEvenness | undefined> {
  const { row, model } = await couponModel(person, couponId);
  if (row.plan.mode !== 'even') return undefined;
  const { setting } = row.sheet.cells[0]!;
  const { evidence, events } = await evidenceFor(row.person_id, row.vinyl_id, row.cutter_id, row.wanted, {
    base: setting,
    version: model,
    colour: row.colour_id ?? undefined,
    batch: row.batch_id ?? undefined,
  });
  const cells = await coupons.cellsOf(db(), couponId);
  const standing = new Map(currentGrades(events).map((g) => [g.cell, g.grade]));
  const places = cells.flatMap((c) => {
    const grade = standing.get(c.id);
    const drawn = row.sheet.cells.find((s) => s.number === c.number)!;
    // The sheet is drawn as it lies on the mat.
    return grade ? [{ x: drawn.x, y: drawn.y, grade }] : [];
  });
  if (places.length < 6) return undefined;
  const found = await evennessOnThread({
    fit: fitInputFrom(evidence, events),
    position: setting.steps[strengthAxis(model).key]!,
    passes: passesOf(model, setting),
    places,
  });
  return { ...found, zone: found.odd && zoneOf(found.odd, places), graded: places.length };
}

/** The latest check of a cutter that has enough grades. */
export async function evennessOfCutter(
  person: Person | undefined,
  cutterId: string,
): Promise<CutterEvenness | undefined> {
  const last = person && (await coupons.lastEven(db(), person.id, cutterId));
  return last && evennessOf(person, last.id);
}
