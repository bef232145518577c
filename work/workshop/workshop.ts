import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { bladeWear, learntLife, lifeLeft, matGrip, type BladeWear, type MatGrip } from '#core/wear/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/workshop/workshop.ts';
import type { Person } from '#work/people/person.ts';
import { type Bench, toBench } from './bench.ts';

/** The types a blade's life is told for: from what spares it to what wears it most. */
const LIFE_TYPES: readonly VinylTypeKey[] = ['smooth', 'holographic', 'glitter'];

export type Blade = {
  id: string;
  name: string;
  angle: number;
  offsetUm: number;
  cutUm: number;
  lifeUm: number;
  wear: BladeWear;
  /** How far it still goes, in µm, on a few types. */
  left: [VinylTypeKey, number][];
  cutter: string | undefined;
};
export type Mat = {
  id: string;
  name: string;
  grip: 'light' | 'ordinary' | 'high';
  widthUm: number;
  lengthUm: number;
  loads: number;
  washes: number;
  left: MatGrip;
  inUse: boolean;
};
export type Press = {
  id: string;
  name: string;
  kind: string;
  widthUm: number;
  lengthUm: number;
  hottest: number;
  shows: 'C' | 'F';
  off: number;
};

const toMat = (m: store.MatRow): Mat => ({
  id: m.id,
  name: m.name,
  grip: m.grip,
  widthUm: m.width_um,
  lengthUm: m.length_um,
  loads: m.loads,
  washes: m.washes,
  left: matGrip(m.loads, m.washes),
  inUse: m.in_use,
});
const toPress = (p: store.PressRow): Press => ({
  id: p.id,
  name: p.name,
  kind: p.kind,
  widthUm: p.width_um,
  lengthUm: p.length_um,
  hottest: p.hottest,
  shows: p.shows,
  off: p.off,
});

/** What a bench card says of a person's tools beside the cutter: the mat on the bench, and presses that show something else than they are. */
export async function besideCutter(person: Person): Promise<{ mat: Mat | undefined; presses: Press[] }> {
  const [mats, presses] = await Promise.all([store.matsOf(db(), person.id), store.pressesOf(db(), person.id)]);
  return {
    mat: mats.map(toMat).find((m) => m.inUse),
    presses: presses.map(toPress).filter((p) => p.off !== 0),
  };
}

export async function workshopOf(person: Person | undefined): Promise<{
  cutters: Bench[];
  blades: Blade[];
  mats: Mat[];
  presses: Press[];
}> {
  if (!person) return { cutters: [], blades: [], mats: [], presses: [] };
  const [cutters, blades, mats, presses] = await Promise.all([
    store.cuttersOf(db(), person.id),
    store.bladesOf(db(), person.id),
    store.matsOf(db(), person.id),
    store.pressesOf(db(), person.id),
  ]);
  return {
    cutters: cutters.map(toBench),
    blades: blades.map((b) => {
      const wear = bladeWear(b.runs, b.before_um, b.life_um);
      return {
        id: b.id,
        name: b.name,
        angle: b.angle,
        offsetUm: b.offset_um,
        cutUm: b.cut_um,
        lifeUm: b.life_um,
        wear,
        left: lifeLeft(wear, b.life_um, LIFE_TYPES),
        cutter: b.cutter_id ?? undefined,
      };
    }),
    mats: mats.map(toMat),
    presses: presses.map(toPress),
  };
}

/** How long a person's blades have lasted so far; undefined while too few came off. */
export async function lifeSoFar(person: Person | undefined): Promise<{ lifeUm: number; blades: number } | undefined> {
  const worn = person ? await store.wornBlades(db(), person.id) : [];
  return learntLife(worn.map((b) => bladeWear(b.runs, b.before_um, b.life_um).wornUm));
}
