import { faultsOf } from '#core/artwork/index.ts';
import { sayStrength, speedOf, strengthAxis, type CutterModel, type Setting } from '#core/controls/index.ts';
import type { SetSo, WrongRecord } from '#core/job/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import type { Person } from '#work/people/person.ts';
import type { Piece } from '#work/vinyls/stock.ts';
import type { Bench } from '#work/workshop/bench.ts';
import type { LayerAnswer } from './cut.ts';
import type { JobView } from './view.ts';

/** What the record knows of a part before anybody asks what went wrong: blade, mat, the last clean cut, the batch, the drawing. */
export type PartRecord = Omit<WrongRecord, 'onMat' | 'passes'> & {
  /** The mat to wash. */
  mat: string | undefined;
};

/** A setting as the crafter reads it; undefined where it is of another kind of cutter. */
function setSo(model: CutterModel, setting: Setting | undefined): SetSo | undefined {
  if (!setting || setting.model !== model.key || setting.version !== model.version) return undefined;
  const axis = strengthAxis(model);
  const strength = setting.steps[axis.key];
  return strength === undefined
    ? undefined
    : { strength, speed: speedOf(model, setting), word: sayStrength(axis, strength) };
}

/** What the record knows of each part of a job, by its layer. */
export async function recordsOf(
  person: Person | undefined,
  bench: Bench | undefined,
  job: Pick<JobView, 'layers' | 'parts' | 'facts' | 'under'>,
  answers: readonly LayerAnswer[],
  stock: readonly Piece[],
): Promise<Record<string, PartRecord>> {
  if (!person) return {};
  const vinyls = [...new Set(job.layers.flatMap((l) => l.vinyl?.id ?? []))];
  const [last, tried] = await Promise.all([
    bench ? store.lastClean(db(), person.id, bench.cutter.id, vinyls) : [],
    store.triedBy(db(), person.id),
  ]);
  /** What helped before: with this very vinyl where it was tried there, else with any. */
  const helpedWith = (vinyl: string | undefined): WrongRecord['tried'] =>
    Object.fromEntries(
      [...new Set(tried.map((t) => t.cause))].map((cause) => {
        const all = tried.filter((t) => t.cause === cause);
        const own = all.filter((t) => t.vinyl === vinyl);
        const of = own.length > 0 ? own : all;
        return [cause, { helped: of.reduce((s, t) => s + t.helped, 0), not: of.reduce((s, t) => s + t.not_helped, 0) }];
      }),
    );
  return Object.fromEntries(
    job.layers.map((l): [string, PartRecord] => {
      const good = last.find((g) => g.vinyl_id === l.vinyl?.id);
      const answer = answers.find((a) => a.layer === l.id);
      // Of several rounds the last that was cut.
      const rounds = job.parts.filter((p) => p.id === l.id && p.round).map((p) => p.part);
      const cut = job.facts.filter((f) => (f.part === l.part || rounds.includes(f.part)) && !f.undone).at(-1);
      const batch = cut?.batch ?? stock.find((p) => p.vinyl.id === l.vinyl?.id && p.leftUm > 0)?.batch;
      const model = bench?.cutter.model;
      return [
        l.id,
        {
          blade: bench?.blade?.wear.share,
          mat: job.under.inUse?.id,
          matLoads: job.under.inUse?.loads,
          proven: answer?.row.standing === 'proven',
          set: model && setSo(model, cut?.setting ?? answer?.toSet?.setting),
          good: model && setSo(model, good?.setting),
          otherBatch: good?.batch && batch ? good.batch.toLowerCase() !== batch.toLowerCase() : undefined,
          thin: l.vinyl && l.shown.reduce((s, o) => s + faultsOf(o.artwork, o.art, l.needs!, o.widthUm).length, 0),
          tried: helpedWith(l.vinyl?.id),
        },
      ];
    }),
  );
}
