import { createHash } from 'node:crypto';
import { startingSetting, strengthAxis, type CutterModel } from '#core/controls/index.ts';
import {
  confirmedRow,
  gradedRow,
  scaleRow,
  settingRow,
  shelfModel,
  type ShelfAnswer,
  type ShelfInput,
  type ShelfSetting,
} from '#core/transfer/index.ts';
import { trialDefaults } from '#core/proof/index.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import * as store from '#store/shelf/translations.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { shelfOnThread } from '#work/base/compute.ts';
import { NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import type { Bench } from '#work/workshop/bench.ts';

/** Raise when the model of the shelf changes: fits of another version are made again. */
const SHELF_VERSION = 's3';
/** Cutters whose translations are made with a fit; any other is translated when its owner looks. */
const IN_USE = 200;

type Shelved = Pick<ShelfInput, 'settings' | 'scales'>;

/** Everything that is shared, as rows of the shelf. */
async function gather(wanted: Wanted): Promise<{ input: Shelved; cards: (string | null)[] }> {
  const [cards, cuts, lent, scales] = await Promise.all([
    store.sharedCards(db(), wanted),
    store.sharedCuts(db(), wanted),
    store.lentReadings(db(), wanted),
    store.sharedScales(db()),
  ]);
  // What somebody brought in whom nobody vouches for counts, all of it that is about one vinyl, as one setting.
  const heard = new Map<string, number>();
  for (const r of [...cards, ...cuts])
    if (r.hearsay) heard.set(`${r.voice} ${r.vinyl_id}`, (heard.get(`${r.voice} ${r.vinyl_id}`) ?? 0) + 1);
  const foreign = (r: { voice: string; vinyl_id: string; weight: number; hearsay: boolean }) =>
    (r.hearsay ? heard.get(`${r.voice} ${r.vinyl_id}`)! : 1) / r.weight;
  const batchOf = (r: { batch: string | null }) => (r.batch === null ? {} : { batch: r.batch.toLowerCase() });
  const cardOfRow: (string | null)[] = [];
  const readings = [...cards, ...lent].flatMap((r): ShelfSetting[] => {
    const row = settingRow(r.model, r.controls ?? startingSetting(r.model), wanted, r, {
      cutter: r.cutter_id ?? `of ${r.voice}`,
      ...(r.blade_id ? { blade: r.blade_id } : {}),
      type: r.type,
      vinyl: r.vinyl_id,
      person: r.voice,
      ...batchOf(r),
      foreign: foreign(r),
    });
    if (!row) return [];
    cardOfRow.push(r.card_id);
    return [row];
  });
  const found = lastOfOccasion(cuts).flatMap((c): ShelfSetting[] => {
    const where = {
      cutter: c.cutter_id,
      blade: c.blade_id,
      type: c.type,
      vinyl: c.vinyl_id,
      person: c.voice,
      ...batchOf(c),
      foreign: foreign(c),
    };
    const axis = strengthAxis(c.model);
    if (c.better !== null)
      return [confirmedRow(c.model, { ...c.setting, steps: { ...c.setting.steps, [axis.key]: c.better } }, where)];
    // What did not come out teaches as well: where it hung, what was wanted lies above.
    const row = gradedRow(c.model, c.setting, wanted, c.grade, where);
    return row ? [row] : [];
  });
  return {
    input: {
      settings: [...readings, ...found],
      scales: scales.map((s) =>
        scaleRow(s.model, startingSetting(s.model), s.cutter_id, s.position, s.milligrams / 1000),
      ),
    },
    cards: cardOfRow,
  };
}

/** Of cuts of one crafter at one number within minutes the last: six taps are one cut. */
function lastOfOccasion(cuts: readonly store.SharedCut[]): store.SharedCut[] {
  const last = new Map<string, Date>();
  return cuts
    .toReversed()
    .filter((c) => {
      const key = JSON.stringify([c.voice, c.cutter_id, c.vinyl_id, c.setting]);
      const after = last.get(key);
      last.set(key, c.made_at);
      return !after || after.getTime() - c.made_at.getTime() >= trialDefaults.occasionMinutes * 60_000;
    })
    .toReversed();
}

const hashOf = (input: Shelved): Buffer => createHash('sha256').update(JSON.stringify(input)).digest();

/** One shelf after the other: two fits at once would do the same work twice. */
let running: Promise<unknown> = Promise.resolve();

/**
 * Fits the shelf anew where something was shared or taken back since, and translates every vinyl to the cutters in use. The fit before
 * serves until this one is whole.
 *
 * @returns how many shelves were fitted
 */
export function refreshTranslations(): Promise<number> {
  const turn = running.catch(() => undefined).then(fitBoth);
  running = turn;
  return turn;
}

async function fitBoth(): Promise<number> {
  let fitted = 0;
  for (const wanted of ['clean', 'through'] as const) {
    const { input, cards } = await gather(wanted);
    const hash = hashOf(input);
    const before = await store.newestFit(db(), wanted);
    if (before?.version === SHELF_VERSION && before.input_hash.equals(hash)) continue;
    const told = await shelfOnThread(hash.toString('hex'), () => Promise.resolve(input), { kind: 'summary' });
    if (told.kind !== 'summary') continue;
    const persons = new Set(input.settings.map((s) => s.person));
    const fit = await store.insertFit(db(), {
      wanted,
      version: SHELF_VERSION,
      hash,
      input,
      summary: {
        settings: input.settings.length,
        cutters: new Set(input.settings.map((s) => s.cutter)).size,
        vinyls: new Set(input.settings.map((s) => s.vinyl)).size,
        crafters: persons.size,
        wild: told.wild.map(({ row, off }) => ({
          vinyl: input.settings[row]!.vinyl,
          cutter: input.settings[row]!.cutter,
          off,
        })),
      },
    });
    await store.insertPlaces(
      db(),
      fit!.id,
      cards.flatMap((card, row) => (card ? [{ card, off: told.off[row]! }] : [])),
    );
    await store.insertSplits(
      db(),
      fit!.id,
      told.splits.map(({ vinyl, split, centre }) => ({
        vinyl,
        result: {
          by: split.by,
          chance: split.chance,
          camps: split.camps.map((c) => ({
            off: c.at - centre,
            people: c.people,
            settings: c.points.length,
            values: c.values,
          })),
        },
      })),
    );
    for (const cutter of await store.cuttersInUse(db(), IN_USE))
      await translateAll(fit!.id, hash, input, wanted, {
        id: cutter.id,
        model: cutter.definition,
        blade: cutter.blade_id ?? undefined,
      });
    await store.dropOldFits(db(), wanted);
    fitted++;
  }
  return fitted;
}

type OnCutter = { id: string; model: CutterModel; blade: string | undefined };

/** Every vinyl of a shelf, and one unknown of each type, on one cutter. */
async function translateAll(fitId: number, hash: Buffer, input: Shelved, wanted: Wanted, cutter: OnCutter) {
  const vinyls = await store.vinylsOfFit(db(), [...new Set(input.settings.map((s) => s.vinyl))]);
  const told = await shelfOnThread(hash.toString('hex'), () => Promise.resolve(input), {
    kind: 'translate',
    model: cutter.model,
    cutter: cutter.id,
    ...(cutter.blade ? { blade: cutter.blade } : {}),
    wanted,
    vinyls,
  });
  if (told.kind !== 'translate') return;
  await store.insertTranslations(
    db(),
    fitId,
    cutter.id,
    told.rows.map(({ vinyl, said }) => ({
      vinyl_id: vinyl,
      basis: said.basis,
      result: 'position' in said ? said : null,
      crafters: said.crafters,
      models: said.models,
    })),
  );
}

const onCutter = (bench: Bench): OnCutter => ({ ...bench.cutter, blade: bench.blade?.id });

export type TranslationRow = store.TranslationRow;
type SaidByShelf = {
  /** The fit that says so; none where nobody shared anything. */
  fit: number | undefined;
  translations: Map<string, TranslationRow>;
  splits: Map<string, store.SplitRow>;
};

/**
 * What others found for some vinyls: in the terms of the cutter on the bench, and the camps they fall into. What nobody shared
 * anything about is left out. Reads one row, but for a cutter that was never translated to: that is done here, once.
 */
export async function saidByShelf(
  bench: Bench | undefined,
  vinylIds: readonly string[],
  wanted: Wanted,
): Promise<SaidByShelf> {
  if (vinylIds.length === 0) return { fit: undefined, translations: new Map(), splits: new Map() };
  const read = () => store.saidOf(db(), wanted, bench?.cutter.id ?? null, vinylIds);
  let said = await read();
  if (said && bench && !said.translated) {
    const { input } = (await store.fitInput(db(), said.fit_id))!;
    await translateAll(said.fit_id, said.input_hash, input, wanted, onCutter(bench));
    said = await read();
  }
  return {
    fit: said?.fit_id,
    translations: new Map(said?.translations.map((r) => [r.vinyl_id, r])),
    splits: new Map(said?.splits.map((r) => [r.vinyl_id, r.result])),
  };
}

/** What others found for a vinyl, in the terms of the cutter on the bench. Undefined where nobody shared anything about it. */
export const translationFor = async (
  bench: Bench,
  vinylId: string,
  wanted: Wanted,
): Promise<TranslationRow | undefined> => (await saidByShelf(bench, [vinylId], wanted)).translations.get(vinylId);

/** The same for a cutter of one's own, with the names of what is spoken of. */
export async function againstOthersOf(
  person: Person | undefined,
  cutterId: string,
): Promise<{ cutter: { id: string; name: string }; stands: AgainstOthers | undefined; vinyls: NamedVinyl[] }> {
  const bench = (await workshopOf(person)).cutters.find((c) => c.cutter.id === cutterId);
  if (!bench) throw new NotFound('No such cutter.');
  const stands = await againstOthers(bench);
  const ids = [...new Set([...(stands?.rests ?? []), ...(stands?.sharpen ?? [])].map((v) => v.vinyl))];
  const rows = await vinylStore.vinylsByIds(db(), ids);
  return {
    cutter: { id: bench.cutter.id, name: bench.cutter.name },
    stands,
    vinyls: rows.map((v) => ({
      id: v.id,
      brand: v.brand,
      name: v.name,
      type: v.type as VinylTypeKey,
      colour: undefined,
    })),
  };
}
type NamedVinyl = { id: string; brand: string; name: string; type: VinylTypeKey; colour: undefined };

export type AgainstOthers = Extract<ShelfAnswer, { kind: 'offset' }> & { crafters: number; cuttersOfModel: number };

/** How a cutter stands against others of its model, the settings that say so, and what would sharpen it. */
async function againstOthers(bench: Bench): Promise<AgainstOthers | undefined> {
  const fit = await store.newestFit(db(), 'clean');
  if (!fit) return undefined;
  const { input } = (await store.fitInput(db(), fit.id))!;
  const told = await shelfOnThread(fit.input_hash.toString('hex'), () => Promise.resolve(input), {
    kind: 'offset',
    model: bench.cutter.model,
    cutter: bench.cutter.id,
    ...(bench.blade ? { blade: bench.blade.id } : {}),
  });
  if (told.kind !== 'offset') return undefined;
  const id = shelfModel(bench.cutter.model, startingSetting(bench.cutter.model));
  const alike = input.settings.filter((s) => s.model === id && s.cutter !== bench.cutter.id);
  return {
    ...told,
    crafters: new Set(alike.map((s) => s.person)).size,
    cuttersOfModel: new Set(alike.map((s) => s.cutter)).size,
  };
}
