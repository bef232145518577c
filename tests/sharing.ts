import { formatPosition, strengthAxis } from '#core/controls/index.ts';
import { gradeWords } from '#core/grades/index.ts';
import { nominalLoad } from '#core/window/index.ts';
import { publishCard } from '#work/shelf/publish.ts';
import { confirmCard } from '#work/shelf/confirm.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { nextCutId } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import type { Person } from '#work/people/person.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { form, grade } from './bench.ts';

// What tests of sharing have in common: somebody cuts, keeps, publishes; somebody else confirms.

const DAY = 86_400_000;
export const bench = async (p: Person) => (await benchOf(p))!;

/** Cuts a coupon of a vinyl whose window lies at `load` (log load against plain vinyl), and keeps the number nearest to it. */
export async function learn(person: Person, vinyl: string, load: number, days = 3): Promise<void> {
  const b = await bench(person);
  const axis = strengthAxis(b.cutter.model);
  const scale = nominalLoad(axis);
  const coupon = await makeCoupon(person, b, vinyl, form({ cells: '6' }), {
    createdAt: new Date(Date.now() - days * DAY),
  });
  const { cells } = await couponOf(person, coupon);
  await takeAll(
    person,
    cells.map((c, i) => {
      const off = scale.at(c.position) - load;
      return grade(c.id, gradeWords[off < -0.36 ? 0 : off < -0.21 ? 1 : off < 0.21 ? 2 : off < 0.5 ? 3 : 4]!, 1, i);
    }),
  );
  const near = cells.reduce((a, c) =>
    Math.abs(scale.at(c.position) - load) < Math.abs(scale.at(a.position) - load) ? c : a,
  );
  await keepSetting(person, form({ vinyl, cutter: b.cutter.id, strength: formatPosition(axis, near.position) }));
}

/** Publishes what somebody keeps for a vinyl. */
export const publish = async (person: Person, vinyl: string, more: Record<string, string> = {}): Promise<string> =>
  publishCard(
    person,
    await bench(person),
    form({ vinyl, wanted: 'clean', visibility: 'public', licence: 'cc0', ...more }),
    person.name,
  );

/** Says how a card came out on somebody's cutter, at the place plain vinyl has there unless said otherwise. */
export async function confirm(
  person: Person,
  card: string,
  outcome: string,
  more: Record<string, string> = {},
  days = 0,
): Promise<void> {
  const b = await bench(person);
  const axis = strengthAxis(b.cutter.model);
  await confirmCard(
    person,
    b,
    card,
    form({ cut: nextCutId(), outcome, strength: formatPosition(axis, axis.start!), said: '', ...more }),
    person.name,
    new Date(Date.now() - days * DAY),
  );
}
