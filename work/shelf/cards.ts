import { randomBytes } from 'node:crypto';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  carrySetting,
  depthOf,
  passesOf,
  sayStrength,
  speedOf,
  startingSetting,
  strengthAxis,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import type { Outcome, Standing, StandingResult } from '#core/proof/index.ts';
import { placeBeside, rankOf, shelfModel, type Rank, type Translated } from '#core/transfer/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import {
  shownFit,
  type ShownFit,
  fitInputFrom,
  withPlainLabels,
  type FitInput,
  type FitResult,
  type GradedCell,
} from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import type { Wanted } from '#store/coupons/coupons.ts';
import { afterCommit, alreadyThere, db, transaction } from '#store/base/db.ts';
import * as shelfStore from '#store/shelf/translations.ts';
import type { SplitRow } from '#store/shelf/translations.ts';
import * as socialStore from '#store/shelf/social.ts';
import * as workshopStore from '#store/workshop/workshop.ts';
import * as readingStore from '#store/coupons/readings.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { reportCut } from '#work/cuts/cuts.ts';
import { count } from '#work/people/limits.ts';
import type { Person } from '#work/people/people.ts';
import { can } from '#work/people/permissions.ts';
import { proofOf, refreshCardStanding } from './standing.ts';
import { ask } from '#work/base/queue.ts';
import { evidenceFor, evidenceRows, posteriorOf, settingOf, wantedForm } from '#work/coupons/readings.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { hideCard, isFollowed, remarksOf, tellFollowers, tellStewards, type Remark } from './social.ts';
import { paragraph } from '#work/base/text.ts';
import { shelfNow, translationFor, translationsFor } from './translate.ts';
import { vinylOf } from '#work/vinyls/vinyls.ts';
import type { Bench } from '#work/workshop/workshop.ts';

export const licences = ['read', 'cc-by', 'cc-by-sa', 'cc0'] as const;
export const visibilities = ['private', 'link', 'public'] as const;

const publishForm = z.object({
  vinyl: z.uuid(),
  wanted: wantedForm,
  visibility: z.enum(visibilities, 'Choose who may see it.'),
  licence: z.enum(licences, 'Choose what others may do with it.'),
  conditions: paragraph('what was special', 1000).default(''),
  change: paragraph('what changed', 2000).default(''),
});

const newKey = () => randomBytes(24).toString('base64url');
const needAccount = (person: Person) => {
  if (!can(person, 'share'))
    throw new Invalid({ form: 'Make an account first: what is shared bears a name, and you can take it back.' });
};

/**
 * Publishes the kept setting of a vinyl on the cutter on the bench as a card, or as the next version of the card that is there.
 * A version holds everything it says; it never changes.
 *
 * @returns the card's id
 */
export async function publishCard(
  person: Person,
  bench: Bench,
  form: FormData,
  address: string,
  at?: Date,
): Promise<string> {
  const input = read(publishForm, form);
  needAccount(person);
  const vinyl = await vinylOf(person, input.vinyl);
  const kept = await settingOf(person.id, vinyl.id, bench.cutter, input.wanted);
  if (!kept) throw new Invalid({ form: 'Keep a number for this vinyl first: that is what a card shares.' });
  await count('publish', person, address);
  const { evidence, events } = await evidenceFor(person.id, vinyl.id, bench.cutter.id, input.wanted, {
    base: kept.controls,
  });
  // Under plain labels, as the card keeps it: whoever has the card comes to the same reading.
  const fitInput = withPlainLabels(fitInputFrom(evidence, events));
  const { hash, result } = await posteriorOf(fitInput);
  const { model } = bench.cutter;
  const rows = await evidenceRows(evidence, events);
  const content: store.CardContent = {
    vinyl: {
      brand: vinyl.brand,
      name: vinyl.name,
      type: vinyl.type,
      colour: vinyl.colour?.name ?? '',
      hex: vinyl.colour?.hex ?? '#b9b2a3',
    },
    model,
    controls: kept.controls,
    standing: proofOf(model, kept.controls, input.wanted, rows, person.id, person.zone).standing,
    conditions: input.conditions,
    result,
    asked: { target: fitInput.target, ...(fitInput.around ? { around: fitInput.around } : {}) },
    zone: person.zone,
    cells: fitInput.cells,
    evidence: rows,
  };
  const before = await store.cardOf(db(), person.id, vinyl.id, model.key, input.wanted);
  if (before && input.change === '')
    throw new Invalid({ change: 'Say what changed and why: others have the version before.' });
  const id = before?.id ?? uuidv7();
  await transaction(async (q) => {
    if (!before)
      await store.insertCard(q, {
        id,
        personId: person.id,
        vinylId: vinyl.id,
        modelKey: model.key,
        wanted: input.wanted,
        visibility: input.visibility,
        linkKey: input.visibility === 'link' ? newKey() : null,
        ...(at ? { madeAt: at } : {}),
      });
    else if (before.visibility !== input.visibility)
      await store.setVisibility(q, id, input.visibility, input.visibility === 'link' ? newKey() : null);
    await store.insertVersion(q, {
      cardId: id,
      number: (before?.number ?? 0) + 1,
      content,
      change: input.change,
      licence: input.licence,
      hash,
      cutterId: bench.cutter.id,
      bladeId: bench.blade?.id ?? null,
      ...(at ? { publishedAt: at } : {}),
    });
    if (input.visibility !== 'private') await vinylStore.raiseVisibility(q, vinyl.id, input.visibility);
  }).catch((error: unknown) => {
    // Two taps, or two devices, at one moment: the first one stands.
    if (alreadyThere(error)) throw new Invalid({ form: 'This was published a moment ago. Look at the card.' });
    throw error;
  });
  await cardsChanged([{ id, vinyl_id: vinyl.id, model_key: model.key, wanted: input.wanted }]);
  return id;
}

/**
 * What a card's evidence and those of others say to a machine of the same model.
 * @param here the machine that asks, where its own cuts may be among those found; any other when left out
 */
function sharedInput(
  type: VinylTypeKey,
  wanted: Wanted,
  cards: readonly store.CardRow[],
  found: readonly store.FoundRow[],
  here?: { cutter: string; blade: string | undefined },
): { input: FitInput; crafters: number } {
  // The card that rests on most says how deep the blade stands and how fast it goes.
  const lead = cards.reduce((most, c) => (c.content.cells.length > most.content.cells.length ? c : most));
  const { model, controls } = lead.content;
  const alike = cards.filter(
    (c) => c.content.model.version === model.version && depthOf(model, c.content.controls) === depthOf(model, controls),
  );
  const crafters = new Set(alike.map((c) => c.person_id));
  const axis = strengthAxis(model);
  const cells: GradedCell[] = alike.flatMap((c, i) =>
    c.content.cells.map((cell) => ({
      ...cell,
      coupon: `${i}-${cell.coupon}`,
      ...(cell.blade === undefined ? {} : { blade: `${i}-${cell.blade}` }),
      ...(cell.batch === undefined ? {} : { batch: `${i}-${cell.batch}` }),
      cutter: `author-${i}`,
    })),
  );
  const machines = new Map<string, string>();
  const blades = new Map<string, string>();
  for (const [i, f] of found.entries()) {
    const { setting } = f;
    if (setting.model !== model.key || setting.version !== model.version) continue;
    if (depthOf(model, setting) !== depthOf(model, controls)) continue;
    if (!machines.has(f.cutter_id)) machines.set(f.cutter_id, `other-${machines.size + 1}`);
    if (!blades.has(f.blade_id)) blades.set(f.blade_id, `blade-${blades.size + 1}`);
    crafters.add(f.person_id);
    const speed = speedOf(model, setting);
    cells.push({
      coupon: `found-${i}`,
      blade: blades.get(f.blade_id)!,
      cutter: machines.get(f.cutter_id)!,
      ...(speed !== undefined && speed > 0 ? { speed } : {}),
      strength: setting.steps[axis.key]!,
      figures: [{ grades: [{ passes: f.passes, grade: f.grade }] }],
    });
  }
  const speed = speedOf(model, controls);
  return {
    crafters: crafters.size,
    input: {
      format: 'versipel-fit/1',
      model,
      type,
      wanted,
      passes: passesOf(model, controls),
      target: {
        ...(cells.length > 0 && speed !== undefined && speed > 0 ? { speed } : {}),
        ...(here && machines.has(here.cutter) ? { cutter: machines.get(here.cutter)! } : {}),
        ...(here?.blade && blades.has(here.blade) ? { blade: blades.get(here.blade)! } : {}),
      },
      cells,
      seed: 1,
    },
  };
}

/** Makes the public evidence for a vinyl on a model the current one; without any there is none. */
export async function refreshShared(vinylId: string, modelKey: string, wanted: Wanted): Promise<void> {
  const cards = (await store.publicCards(db(), vinylId, modelKey, wanted)).filter((c) => c.content.cells.length > 0);
  if (cards.length === 0) return void (await store.dropSharedReadings(db(), vinylId, modelKey, wanted));
  const found = (await Promise.all(cards.map((c) => store.foundWith(db(), c.id)))).flat();
  const { input, crafters } = sharedInput(cards[0]!.content.vinyl.type as VinylTypeKey, wanted, cards, found);
  const { hash } = await posteriorOf(input);
  await store.setSharedReading(db(), { vinylId, model: input.model, wanted, hash, crafters });
}

/** After grades: cuts made with a public card change what it says to others. */
export async function sharedAfterGrades(cutIds: readonly string[]): Promise<void> {
  const cards = new Map<string, Changed>();
  for (const cutId of cutIds) {
    const confirmation = await store.confirmationOf(db(), cutId);
    const card = confirmation && (await store.cardById(db(), confirmation.card_id, null));
    if (card) cards.set(card.id, card);
  }
  await cardsChanged([...cards.values()]);
}

type Changed = Pick<store.CardRow, 'id' | 'vinyl_id' | 'model_key' | 'wanted'>;

/**
 * Whatever rests on cards is made again once their change is committed: where they stand, what they say to their model, who is told, and
 * the shelf. What several of them share is made once.
 */
export const cardsChanged = (cards: readonly Changed[]): Promise<void> =>
  cards.length === 0 ? Promise.resolve() : afterCommit(() => makeAgain(cards));

async function makeAgain(cards: readonly Changed[]): Promise<void> {
  const turns = await store.dueTurns(
    db(),
    cards.map((c) => c.id),
  );
  const once = (key: (c: Changed) => string) => [...new Map(cards.map((c) => [key(c), c])).values()];
  for (const c of once((x) => `${x.vinyl_id} ${x.wanted} ${x.model_key}`))
    await refreshShared(c.vinyl_id, c.model_key, c.wanted);
  for (const c of cards) await refreshCardStanding(db(), c.id);
  for (const c of once((x) => `${x.vinyl_id} ${x.wanted}`)) await tellFollowers(c.vinyl_id, c.wanted);
  await ask('translate');
  for (const { card_id, turn } of turns) await store.cardSettled(db(), card_id, turn);
}

/** Task: makes again what rests on cards whose change was cut short before that. Answers how many there were. */
export async function settleCards(olderThanSeconds = 60, limit = 100): Promise<number> {
  const due = await store.dueCards(db(), olderThanSeconds, limit);
  await cardsChanged(due);
  return due.length;
}

export type SharedReading = { result: FitResult; crafters: number };
export const sharedReadingOf = (
  vinylId: string,
  model: CutterModel,
  wanted: Wanted,
): Promise<SharedReading | undefined> => store.sharedReading(db(), vinylId, model, wanted);

/** A card by its address: its id, or the key of its link. Everything else is not found, whoever asks. */
export async function cardRow(
  person: Person | undefined,
  ref: string,
  number: number | null = null,
): Promise<store.CardRow> {
  const byKey = z.uuid().safeParse(ref).success ? undefined : await store.cardIdByKey(db(), ref.slice(0, 100));
  const id = byKey?.id ?? (z.uuid().safeParse(ref).success ? ref : undefined);
  const card = id && (await store.cardById(db(), id, number));
  // A link's card is seen with the key only: its id alone opens nothing.
  const visibility = card && (card.visibility === 'link' && !byKey ? 'private' : card.visibility);
  if (!card || !can(person, 'see', { owner: card.person_id, visibility: visibility! }))
    throw new NotFound('No such card.');
  // What a steward took off the shelf is seen by its author and by stewards.
  if (card.hidden_at && card.person_id !== person?.id && !can(person, 'keep order'))
    throw new NotFound('This card was taken off the shelf.');
  return card;
}

/** A server as it is said: without how it is spoken to. Undefined where it is not known. */
export const sayHome = (home: string | null): string | undefined => home?.replace(/^https?:\/\//, '') || undefined;
/** Where a row came from, as it is said. */
export const homeOf = (row: store.FromElsewhere): string | undefined =>
  row.source_id === null ? undefined : (sayHome(row.home) ?? 'a pack');

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
    grade: store.CardCell['grade'];
    said: string;
    at: string;
    version: number;
    outcome: Outcome | undefined;
    /** The place that did instead, in their cutter's own words. */
    better: string | undefined;
  }[];
  /** Two schools for this vinyl, each with its number on the cutter on the bench. */
  split: SplitHere | undefined;
  /** What it says to the cutter on the bench. */
  here:
    | { kind: 'no bench' }
    | { kind: 'own' }
    | {
        kind: 'other model';
        cutter: string;
        model: CutterModel;
        controls: Setting;
        translated: TranslatedHere | undefined;
        /** Why there is no number. */
        why: 'not comparable' | 'nothing' | undefined;
      }
    | {
        kind: 'same model';
        cutter: string;
        result: FitResult;
        crafters: number;
        controls: Setting;
        model: CutterModel;
        adopted: number | undefined;
        translated: TranslatedHere | undefined;
      };
};

/** A card's number on the cutter on the bench: where it comes from, how sure it is. */
export type TranslatedHere = Omit<Translated, 'basis'> & {
  basis: Translated['basis'];
  /** The card's own number translated, and the chance that it comes out. */
  number: number;
  rank: Rank;
};
export type SplitHere = {
  by: SplitRow['by'];
  camps: { people: number; settings: number; values: string[]; number: number | undefined; here: boolean }[];
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
    splitHere(bench, card.vinyl_id, card.wanted),
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
  const translated = await translatedHere(bench, card);
  if (!controls)
    return {
      kind: 'other model',
      cutter: name,
      model,
      controls: startingSetting(model),
      translated: typeof translated === 'object' ? translated : undefined,
      why: typeof translated === 'string' ? translated : undefined,
    };
  const { input, crafters } = sharedInput(card.content.vinyl.type as VinylTypeKey, card.wanted, [card], found, {
    cutter: bench.cutter.id,
    blade: bench.blade?.id,
  });
  const { result } = await posteriorOf(input);
  const kept =
    person && (await readingStore.currentSetting(db(), person.id, card.vinyl_id, bench.cutter.id, card.wanted));
  const adopted = kept?.source_card === card.id ? (kept.source_version ?? undefined) : undefined;
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

/** A card's number in the terms of the cutter on the bench, or why it cannot be said. */
async function translatedHere(
  bench: Bench,
  card: store.CardRow,
): Promise<TranslatedHere | 'not comparable' | 'nothing' | undefined> {
  const row = await translationFor(bench, card.vinyl_id, card.wanted);
  if (!row) return undefined;
  if (!row.result) return row.basis === 'not comparable' ? 'not comparable' : 'nothing';
  const [place, standing] = await Promise.all([
    shelfStore.placesOf(db(), row.fit_id, [card.id]),
    shelfStore.cardStanding(db(), card.id),
  ]);
  const off = place[0]?.off ?? 0;
  return {
    ...row.result,
    number: placeBeside(bench.cutter.model, row.result, off),
    rank: rankOf(
      card.content.vinyl.type as VinylTypeKey,
      card.wanted,
      off,
      row.result.sd,
      standing?.standing ?? card.content.standing,
    ),
  };
}

/** The schools a vinyl's settings fall into, with the number of each on the cutter on the bench. */
export async function splitHere(
  bench: Bench | undefined,
  vinylId: string,
  wanted: Wanted,
): Promise<SplitHere | undefined> {
  const fit = await shelfNow(wanted);
  const row = fit && (await shelfStore.splitOf(db(), fit.id, vinylId));
  if (!row) return undefined;
  const said = bench && (await translationFor(bench, vinylId, wanted))?.result;
  const mine = bench && shelfModel(bench.cutter.model, startingSetting(bench.cutter.model));
  return {
    by: row.result.by,
    camps: row.result.camps.map((c) => ({
      people: c.people,
      settings: c.settings,
      values: c.values.map((v) => (row.result.by === 'model' ? modelWord(v) : v)),
      number: bench && said ? placeBeside(bench.cutter.model, said, c.off) : undefined,
      here: row.result.by === 'model' && mine !== undefined && c.values.includes(mine),
    })),
  };
}
/** "marlow-24@1 2 passes" as it is said: the key is its name in small letters. */
const modelWord = (id: string) => id.replace(/@\d+/, '').replace(/-/g, ' ');

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

/**
 * Takes a card's controls as the setting for the same vinyl on the cutter on the bench, with the link to where it came from. On
 * this machine nobody has cut it yet: it is a draft until its own cuts speak.
 */
export async function adoptCard(person: Person, bench: Bench, ref: string): Promise<void> {
  const card = await cardRow(person, ref);
  if (!bench.blade) throw new Invalid({ form: `Put a blade on ${bench.cutter.name} first.` });
  const controls = carrySetting(card.content.model, bench.cutter.model, card.content.controls);
  if (!controls)
    throw new Invalid({
      form: `This card is for the ${card.content.model.name}. Its number means nothing on ${bench.cutter.name}: cut a three-cell check.`,
    });
  const found = await store.foundWith(db(), card.id);
  const { input } = sharedInput(card.content.vinyl.type as VinylTypeKey, card.wanted, [card], found);
  const { hash } = await posteriorOf(input);
  await transaction(async (q) => {
    await readingStore.replaceSetting(q, person.id, card.vinyl_id, bench.cutter.id, card.wanted, null);
    await readingStore.insertSetting(q, {
      id: uuidv7(),
      personId: person.id,
      vinylId: card.vinyl_id,
      colourId: null,
      cutterId: bench.cutter.id,
      bladeId: bench.blade!.id,
      wanted: card.wanted,
      controls,
      standing: 'draft',
      hash,
      note: '',
      source: { card: card.id, version: card.number },
    });
  });
}

/**
 * "I cut this", with or without a card behind the number. A cut with an adopted number is a confirmation: its grade counts on the
 * card, under the name of who cut it. Guests' cuts stay their own.
 */
export async function reportCutHere(
  person: Person,
  bench: Bench,
  form: FormData,
  address: string,
  at?: Date,
): Promise<string> {
  const vinylId = String(form.get('vinyl'));
  const wanted = wantedForm.parse(form.get('wanted'));
  const kept = z.uuid().safeParse(vinylId).success
    ? await readingStore.currentSetting(db(), person.id, vinylId, bench.cutter.id, wanted)
    : undefined;
  const source = kept?.source_card;
  if (source && can(person, 'share')) await count('confirm', person, address);
  const cutId = await reportCut(person, bench, form, at);
  if (!source || !can(person, 'share') || (await store.confirmationOf(db(), cutId))) return cutId;
  const card = await store.cardById(db(), source, null);
  if (card && card.person_id !== person.id && card.visibility !== 'private')
    await store.insertConfirmation(db(), {
      cutId,
      cardId: source,
      version: kept.source_version!,
      personId: person.id,
      ...(at ? { madeAt: at } : {}),
    });
  return cutId;
}

const wordsForm = z.object({ said: paragraph('what you saw', 2000).default('') });

export type CutCard = { author: string; address: string | undefined; said: string };
/** Where anybody may look at a card; undefined where that takes a link, which only its author gives away. */
const openAddress = (card: store.CardRow): string | undefined => (card.visibility === 'public' ? card.id : undefined);

/** The card an adopted setting came from: its author, and its address where everybody may see it. */
export async function sourceOf(cardId: string): Promise<{ author: string; address: string | undefined } | undefined> {
  const card = await store.cardById(db(), cardId, null);
  return card && { author: card.author, address: openAddress(card) };
}

/** The card a cut was made with, for who cut it; undefined when there was none. */
export async function cardOfCut(person: Person | undefined, cutId: string): Promise<CutCard | undefined> {
  const confirmation = await store.confirmationOf(db(), cutId);
  if (!confirmation || confirmation.person_id !== person?.id) return undefined;
  const card = await store.cardById(db(), confirmation.card_id, null);
  return card && { author: card.author, address: openAddress(card), said: confirmation.said };
}

/** Tells the author of a card in words what was seen when it was cut. */
export async function sayWhatWasSeen(person: Person, cutId: string, form: FormData, address: string): Promise<void> {
  const input = read(wordsForm, form);
  const confirmation = z.uuid().safeParse(cutId).success ? await store.confirmationOf(db(), cutId) : undefined;
  if (!confirmation || confirmation.person_id !== person.id) throw new NotFound('No such cut.');
  await count('confirm', person, address);
  await store.sayWords(db(), cutId, input.said);
}

/** Who may see a card from now on. A link is a new one each time; a withdrawn card leaves the public evidence at once. */
export async function changeVisibility(person: Person, ref: string, form: FormData): Promise<void> {
  const card = await cardRow(person, ref);
  if (!can(person, 'change', { owner: card.person_id })) throw new NotFound('No such card.');
  const { visibility } = read(z.object({ visibility: z.enum(visibilities, 'Choose who may see it.') }), form);
  await transaction(async (q) => {
    await store.setVisibility(q, card.id, visibility, visibility === 'link' ? newKey() : null);
    if (visibility !== 'private') await vinylStore.raiseVisibility(q, card.vinyl_id, visibility);
  });
  await cardsChanged([card]);
}

/** Takes a card off the shelf for everybody, or puts it back: what rested on it is made again. */
export async function hideCardHere(person: Person, ref: string, form: FormData): Promise<void> {
  const card = await cardRow(person, ref);
  await hideCard(person, card, form.get('hide') === 'yes', form);
  await cardsChanged([card]);
}

const reportForm = z.object({
  why: paragraph('why', 2000).refine((s) => s.length > 0, { message: 'Say in a few words what is wrong with it.' }),
});

/** Reports a card to whoever runs the server. */
export async function reportCard(
  person: Person | undefined,
  ref: string,
  form: FormData,
  address: string,
): Promise<void> {
  const card = await cardRow(person, ref);
  const { why } = read(reportForm, form);
  await count('report', person, address);
  await store.insertReport(db(), card.id, person?.id ?? null, why);
  await tellStewards(card, why);
}

export type ListedCard = {
  id: string;
  own: boolean;
  author: string;
  /** The server it came from, or "a pack"; undefined where it was published here. */
  home: string | undefined;
  visibility: store.CardRow['visibility'];
  hidden: boolean;
  vinyl: store.CardContent['vinyl'] & { id: string };
  model: CutterModel;
  wanted: Wanted;
  controls: Setting;
  standing: Standing;
  /** One sentence: what it stands at, and why. */
  why: string;
  result: ShownFit;
  /** Whether the result is for the cutter on the bench: the model of the strip. */
  here: 'same model' | 'translated' | undefined;
  /** The number to set on the cutter on the bench, where it can be said. */
  number: number | undefined;
  rank: Rank | undefined;
  /** How closely the place is known there, as a share: 0.1 is a tenth more or less. */
  closeness: number | undefined;
  crafters: number;
  models: number;
  confirmed: number;
  graded: number;
  split: boolean;
};

/** What the shelf ranks at most: beyond, what fits the search best comes first. */
const RANKED = 300;

/**
 * The shelf: public cards and one's own, those that promise most on the cutter on the bench first. Reads rows only.
 *
 * Where it can be said what a card means on the bench, cards are ranked by the chance that they come out there, doubt counted
 * against them; the others follow, those on the same model first.
 */
export async function listCards(
  person: Person | undefined,
  bench: Bench | undefined,
  search: string,
  limit = 100,
): Promise<ListedCard[]> {
  const model = bench && { key: bench.cutter.model.key, version: bench.cutter.model.version };
  const rows = await store.listCards(db(), person?.id ?? null, searchWords(search), model ?? null, RANKED);
  const list: ListedCard[] = [];
  for (const wanted of ['clean', 'through'] as const) {
    const mine = rows.filter((r) => r.wanted === wanted);
    if (mine.length === 0) continue;
    const shelf = await placesOnBench(
      bench,
      wanted,
      mine.map((r) => r.vinyl_id),
      mine.map((r) => r.id),
    );
    for (const row of mine) {
      const own = row.person_id === person?.id;
      const said = shelf.translated.get(row.vinyl_id);
      const off = shelf.off.get(row.id);
      const standing = row.standing ?? row.content.standing;
      const sameModel = row.shared !== null;
      const type = row.content.vinyl.type as VinylTypeKey;
      list.push({
        id: row.id,
        own,
        author: row.author,
        home: homeOf(row),
        visibility: row.visibility,
        hidden: row.hidden_at !== null,
        vinyl: { ...row.content.vinyl, id: row.vinyl_id },
        model: row.content.model,
        wanted,
        controls: row.content.controls,
        standing,
        why: row.proof?.sentence ?? '',
        result: !own && said ? said.shown : shownFit(!own && sameModel ? row.shared! : row.content.result),
        here: own ? undefined : said ? 'translated' : sameModel ? 'same model' : undefined,
        number: own || !said || !bench ? undefined : placeBeside(bench.cutter.model, said, off ?? 0),
        rank: said && !own ? rankOf(type, wanted, off ?? 0, said.sd, standing) : undefined,
        closeness: said?.sd,
        crafters: said?.crafters ?? row.crafters ?? 1,
        models: said?.models ?? 1,
        confirmed: row.confirmed,
        graded: row.graded,
        split: shelf.split.has(row.vinyl_id),
      });
    }
  }
  // What was searched for is what is wanted: how well the words fit stands first, in tenths; among equals the rank.
  const order = new Map(rows.map((r, i) => [r.id, i]));
  const fit = new Map(rows.map((r) => [r.id, Math.round(10 * r.fit)]));
  const worth = (c: ListedCard) => (c.own ? -1 : (c.rank?.worth ?? (c.here ? 0.4 : 0)));
  return list
    .sort((a, b) => fit.get(b.id)! - fit.get(a.id)! || worth(b) - worth(a) || order.get(a.id)! - order.get(b.id)!)
    .slice(0, limit);
}

/** What the shelf says of vinyls and cards on the cutter on the bench. */
async function placesOnBench(
  bench: Bench | undefined,
  wanted: Wanted,
  vinyls: readonly string[],
  cards: readonly string[],
) {
  const fit = bench && (await shelfNow(wanted));
  const translated = new Map<string, Translated>();
  if (!bench || !fit) return { translated, off: new Map<string, number>(), split: new Set<string>() };
  for (const [id, row] of await translationsFor(bench, vinyls, wanted)) if (row.result) translated.set(id, row.result);
  const [places, splits] = await Promise.all([
    shelfStore.placesOf(db(), fit.id, cards),
    shelfStore.splitsOf(db(), fit.id, vinyls),
  ]);
  return {
    translated,
    off: new Map(places.map((p) => [p.card_id, p.off])),
    split: new Set(splits.map((s) => s.vinyl_id)),
  };
}

/** The card a person has published for a vinyl, if any. */
export async function ownCard(person: Person, vinylId: string, model: CutterModel, wanted: Wanted) {
  const card = await store.cardOf(db(), person.id, vinylId, model.key, wanted);
  return (
    card && {
      id: card.id,
      number: card.number,
      visibility: card.visibility,
      licence: card.licence,
      conditions: card.content.conditions,
      controls: card.content.controls,
    }
  );
}

export type Found = {
  cut: string;
  card: string;
  who: string;
  vinyl: string;
  model: string;
  wanted: Wanted;
  grade: store.CardCell['grade'];
  said: string;
  at: string;
  unread: boolean;
};

/** What others found with one's cards, latest first. */
export async function openInbox(person: Person | undefined): Promise<Found[]> {
  if (!person) return [];
  const rows = await store.inboxOf(db(), person.id, 100);
  return rows.map((r) => ({
    cut: r.cut_id,
    card: r.card_id,
    who: r.who,
    vinyl: [r.brand, r.vinyl].filter(Boolean).join(' '),
    model: r.model,
    wanted: r.wanted,
    grade: r.grade,
    said: r.said,
    at: r.made_at.toISOString(),
    unread: r.read_at === null,
  }));
}

const readForm = z.object({ until: z.iso.datetime() });

/** All that lay in the inbox up to a moment is read: what came while it was looked at is not. */
export async function markInboxRead(person: Person, form: FormData): Promise<void> {
  const until = new Date(read(readForm, form).until);
  await store.markRead(db(), person.id, until);
  await socialStore.markNoticesRead(db(), person.id, until);
}

export const unreadCount = (person: Person | undefined): Promise<number> =>
  person?.email ? store.unreadOf(db(), person.id) : Promise.resolve(0);
