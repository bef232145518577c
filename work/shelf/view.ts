import type { Split } from '#core/answer/index.ts';
import {
  carrySetting,
  sayStrength,
  startingSetting,
  strengthAxis,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import type { Outcome, StandingResult } from '#core/proof/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import type { FitResult } from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { EvidenceRow, Wanted } from '#store/coupons/coupons.ts';
import { db } from '#store/base/db.ts';
import * as shelfStore from '#store/shelf/translations.ts';
import * as socialStore from '#store/shelf/social.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import * as readingStore from '#store/coupons/readings.ts';
import type { Person } from '#work/people/person.ts';
import { posteriorOf } from '#work/coupons/readings.ts';
import { isFollowed, remarksOf, type Remark } from './social.ts';
import { inTermsOf } from '#work/coupons/evidence.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { type TranslatedOnBench, splitOnBench, translatedOnBench } from './onBench.ts';
import { cardRow, homeOf } from './cards.ts';
import { sharedInput } from './shared.ts';

export type CardView = {
  id: string;
  /** The server it came from, and what it counts here; undefined where it was published here. */
  from: { home: string; counts: 'full' | 'half' | 'one' } | undefined;
  /** The address others use: the key of a link, else the id. Undefined while nobody else may see it. */
  address: string | undefined;
  own: boolean;
  author: string;
  vinylId: string;
  wanted: Wanted;
  visibility: store.CardRow['visibility'];
  number: number;
  newest: number;
  content: Omit<store.CardContent, 'cells'>;
  change: string;
  licence: store.Licence;
  publishedAt: string;
  /** Where it stands and what that rests on. */
  proof: StandingResult | undefined;
  hidden: boolean;
  thanks: { n: number; mine: boolean };
  remarks: Remark[];
  followed: boolean;
  versions: { number: number; change: string; licence: store.Licence; publishedAt: string }[];
  found: {
    who: string;
    home: string | undefined;
    model: string;
    angle: number;
    setting: Setting;
    grade: EvidenceRow['grade'];
    said: string;
    at: string;
    version: number;
    /** One's own cut, which can be put right. */
    cut?: string;
    /** Cut on another model, at a number of ours: it counts for the translation, not for the card. */
    translated: boolean;
    outcome: Outcome | undefined;
    /** The place that did instead, in their cutter's own words. */
    better: string | undefined;
  }[];
  /** Two schools for this vinyl, each with its number on the cutter on the bench. */
  split: Split | undefined;
  /** What it says to the cutter on the bench. */
  here:
    | { kind: 'no bench' }
    | { kind: 'own' }
    | {
        kind: 'other model';
        cutter: string;
        model: CutterModel;
        controls: Setting;
        translated: TranslatedOnBench | undefined;
        /** Why there is no number. */
        why: 'not comparable' | 'nothing' | undefined;
        /** The version whose translated number is kept here. */
        adopted: number | undefined;
      }
    | {
        kind: 'same model';
        cutter: string;
        result: FitResult;
        crafters: number;
        controls: Setting;
        model: CutterModel;
        adopted: number | undefined;
        translated: TranslatedOnBench | undefined;
      };
};

/** A card with its evidence, its versions and what others found; and what it says to the cutter on the bench. */
export async function cardView(
  person: Person | undefined,
  bench: Bench | undefined,
  ref: string,
  number: number | null = null,
): Promise<CardView> {
  const card = await cardRow(person, ref, number);
  const [versions, found, standing, thanks, remarks, followed, split] = await Promise.all([
    store.versionsOf(db(), card.id),
    store.foundWith(db(), card.id),
    shelfStore.cardStanding(db(), card.id),
    socialStore.thanksFor(db(), card.id, person?.id ?? null),
    remarksOf(person, card),
    isFollowed(person, card.vinyl_id),
    splitOnBench(bench, card.vinyl_id, card.wanted),
  ]);
  const words = await cutterWords(found);
  const { cells: _, ...content } = card.content;
  const own = card.person_id === person?.id;
  return {
    id: card.id,
    from:
      card.source_id === null
        ? undefined
        : { home: homeOf(card)!, counts: card.hearsay ? 'one' : card.weight < 1 ? 'half' : 'full' },
    address: card.visibility === 'private' ? undefined : (card.link_key ?? card.id),
    own,
    author: card.author,
    vinylId: card.vinyl_id,
    wanted: card.wanted,
    visibility: card.visibility,
    number: card.number,
    newest: versions[0]!.number,
    content,
    change: card.change,
    licence: card.licence,
    publishedAt: card.published_at.toISOString(),
    proof: standing?.proof,
    hidden: card.hidden_at !== null,
    thanks,
    remarks,
    followed,
    split,
    versions: versions.map((v) => ({
      number: v.number,
      change: v.change,
      licence: v.licence,
      publishedAt: v.published_at.toISOString(),
    })),
    found: found.map((f) => ({
      who: f.who,
      home: homeOf(f),
      model: f.model,
      angle: f.angle,
      setting: f.setting,
      grade: f.grade,
      said: f.said,
      at: f.made_at.toISOString(),
      version: f.version,
      ...(f.person_id === person?.id ? { cut: f.cut_id } : {}),
      translated: f.setting.model !== card.model_key,
      outcome: f.outcome ?? undefined,
      better: f.better === null ? undefined : words(f.setting, f.better),
    })),
    here: await onBench(person, bench, card, found, own),
  };
}

async function onBench(
  person: Person | undefined,
  bench: Bench | undefined,
  card: store.CardRow,
  found: readonly store.FoundRow[],
  own: boolean,
): Promise<CardView['here']> {
  if (!bench) return { kind: 'no bench' };
  if (own && bench.cutter.model.key === card.model_key) return { kind: 'own' };
  const { name, model } = bench.cutter;
  const controls = carrySetting(card.content.model, model, card.content.controls);
  const [translated, kept] = await Promise.all([
    translatedOnBench(bench, card),
    person && readingStore.currentSetting(db(), person.id, card.vinyl_id, bench.cutter.id, card.wanted),
  ]);
  const adopted = kept?.source_card === card.id ? (kept.source_version ?? undefined) : undefined;
  if (!controls)
    return {
      kind: 'other model',
      cutter: name,
      model,
      controls: (adopted === undefined ? undefined : await inTermsOf(model, kept!.controls)) ?? startingSetting(model),
      translated: typeof translated === 'object' ? translated : undefined,
      why: typeof translated === 'string' ? translated : undefined,
      adopted,
    };
  const { input, crafters } = sharedInput(card.content.vinyl.type as VinylTypeKey, card.wanted, [card], found, {
    cutter: bench.cutter.id,
    blade: bench.blade?.id,
  });
  const { result } = await posteriorOf(input);
  return {
    kind: 'same model',
    cutter: name,
    result,
    crafters,
    controls,
    model: card.content.model,
    adopted,
    translated: typeof translated === 'object' ? translated : undefined,
  };
}

/** Says a place in the words of the cutter a cut was made on. */
async function cutterWords(found: readonly store.FoundRow[]): Promise<(setting: Setting, position: number) => string> {
  const models = new Map<string, CutterModel>();
  for (const f of found) {
    const id = `${f.setting.model} ${f.setting.version}`;
    if (f.better === null || models.has(id)) continue;
    const model = await workshopStore.modelByVersion(db(), f.setting.model, f.setting.version);
    if (model) models.set(id, model.definition);
  }
  return (setting, position) => {
    const model = models.get(`${setting.model} ${setting.version}`);
    return model ? sayStrength(strengthAxis(model), position) : String(position);
  };
}
