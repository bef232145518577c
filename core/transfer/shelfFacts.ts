import type { Factored } from './factored.ts';
import { type ShelfWanted, type ShelfSetting, type ShelfScale, type Term, shelfDefaults } from './shelfInput.ts';

/** Names that belong together are told apart by what they are within: cutter 7 of one model is not cutter 7 of another. */
export const named = {
  type: (r: ShelfWanted) => r.type,
  vinyl: (r: ShelfWanted) => r.vinyl,
  batch: (r: ShelfWanted) =>
    r.vinyl !== undefined && r.batch !== undefined ? JSON.stringify([r.vinyl, r.batch]) : undefined,
  cutter: (r: ShelfWanted) => (r.cutter === undefined ? undefined : JSON.stringify([r.model, r.cutter])),
  blade: (r: ShelfWanted) =>
    r.cutter !== undefined && r.blade !== undefined ? JSON.stringify([r.model, r.cutter, r.blade]) : undefined,
  entry: (r: ShelfWanted & { entry?: string | undefined }) =>
    r.entry === undefined ? undefined : JSON.stringify([r.model, r.entry]),
} satisfies Record<Term, (r: ShelfWanted) => string | undefined>;

export class Names {
  readonly levels = new Map<string, number>();
  of(name: string | undefined): number {
    if (name === undefined) return -1;
    let level = this.levels.get(name);
    if (level === undefined) this.levels.set(name, (level = this.levels.size));
    return level;
  }
  find(name: string | undefined): number {
    return name === undefined ? -1 : (this.levels.get(name) ?? -1);
  }
}

export type VinylFacts = { root: number; crafters: Set<string>; models: Set<string> };

/** The share of σ² each row is given: its model's own, more where it is wild. Writes the models' shares into `sigma`. */
export function shares(
  at: Factored,
  surprise: Float64Array,
  model: Int32Array,
  sigma: Float64Array,
  settings: number,
): Float64Array {
  const { leverage } = at.rowForms();
  const sum = new Float64Array(sigma.length).fill(shelfDefaults.ownSigma);
  const free = new Float64Array(sigma.length).fill(shelfDefaults.ownSigma);
  const { wild } = shelfDefaults;
  for (let i = 0; i < settings; i++) {
    if (Math.abs(surprise[i]!) > wild) continue;
    const w = at.weight[i]!;
    const r = at.data.y[i]! - at.fitted[i]!;
    // How much of the row's variance is σ²: only that part can tell about it.
    const part = w * at.par.residualVariance * (at.data.share?.[i] ?? 1);
    sum[model[i]!]! += part * w * r * r * (sigma[model[i]!] ?? 1);
    free[model[i]!]! += part * (1 - w * leverage[i]!);
  }
  for (let m = 0; m < sigma.length; m++) sigma[m] = Math.min(9, Math.max(1 / 9, sum[m]! / free[m]!));
  return Float64Array.from(at.data.y, (_, i) => {
    if (i >= settings) return 1e-6;
    const off = Math.abs(surprise[i]!);
    return sigma[model[i]!]! * (off > wild ? off ** 2 : 1);
  });
}

export function factsOf(settings: readonly ShelfSetting[], scales: readonly ShelfScale[], models: Names) {
  const parent = new Map<string, string>();
  const find = (x: string): string => {
    let at = x;
    while (parent.get(at) !== undefined && parent.get(at) !== at) at = parent.get(at)!;
    let step = x;
    while (step !== at) {
      const next = parent.get(step) ?? at;
      parent.set(step, at);
      step = next;
    }
    return at;
  };
  const join = (a: string, b: string) => {
    const [x, y] = [find(a), find(b)];
    if (x !== y) parent.set(x, y);
  };
  const cutterRows = new Map<string, number>();
  for (const r of settings) {
    join(`m ${r.model}`, `v ${r.vinyl}`);
    const name = named.cutter(r)!;
    cutterRows.set(name, (cutterRows.get(name) ?? 0) + 1);
  }
  for (const r of scales) join(`m ${r.model}`, 'grams');
  const numbers = new Map<string, number>();
  const number = (name: string) => {
    const top = find(name);
    if (!numbers.has(top)) numbers.set(top, numbers.size);
    return numbers.get(top)!;
  };
  const root = Int32Array.from(models.levels.keys(), (m) => number(`m ${m}`));
  const vinylFacts = new Map<string, { root: number; crafters: Set<string>; models: Set<string> }>();
  const typeRoots = new Map<string, Set<number>>();
  for (const r of settings) {
    let f = vinylFacts.get(r.vinyl);
    if (!f) vinylFacts.set(r.vinyl, (f = { root: number(`v ${r.vinyl}`), crafters: new Set(), models: new Set() }));
    f.crafters.add(r.person ?? named.cutter(r)!);
    f.models.add(r.model);
    const roots = typeRoots.get(r.type) ?? new Set<number>();
    typeRoots.set(r.type, roots.add(f.root));
  }
  return { root, vinylFacts, typeRoots, cutterRows };
}
