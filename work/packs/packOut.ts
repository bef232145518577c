import { createHash } from 'node:crypto';
import { z } from 'zod';
import { formatFor, pseudonym, sealPack, type Pack, type PackCard, type PackVinyl } from '#core/pack/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/packs/packs.ts';
import { cardRow } from '#work/shelf/cards.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import type { Person } from '#work/people/person.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { vinylRow } from '#work/vinyls/vinyls.ts';
import { isOpen, cutterOfVersion, packVersion, packConfirmation } from './versions.ts';

/** Cards in one pack of the shelf; the rest are on the pages after it. */
const PACK_PAGE = 100;

/**
 * Puts cards together with all they rest on. Who confirmed goes under a pseudonym, authors under their name: they are to be named.
 * Versions that may only be read stay here.
 */
async function makePack(
  ids: readonly string[],
  about: { title: string; author: string; licence: Pack['licence']; home: string; made: Date },
): Promise<Pack> {
  const [cards, versions, found] = await Promise.all([
    store.cardsToPack(db(), ids),
    store.versionsToPack(db(), ids),
    store.foundToPack(db(), ids),
  ]);
  const people = new Map<string, { key: string; name?: string }>();
  const blades = new Map<string, string>();
  const cutters = new Map<string, { real: string; person: string; model: { key: string; version: number } }>();
  const models = new Set<string>();
  const packed = cards.flatMap((card): PackCard[] => {
    const mine = versions.filter((v) => v.card_id === card.id && isOpen(v.licence));
    if (mine.length === 0) return [];
    const person = pseudonym('person', card.person_id);
    people.set(person, { key: person, name: card.author });
    for (const v of mine) {
      const real = cutterOfVersion(v, card.person_id);
      const { key, version } = v.content.model;
      cutters.set(pseudonym('cutter', real), { real, person, model: { key, version } });
      if (v.blade_id) blades.set(pseudonym('blade', v.blade_id), v.blade_id);
      for (const { setting } of v.content.evidence) models.add(`${setting.model} ${setting.version}`);
      models.add(`${key} ${version}`);
    }
    const numbers = new Set(mine.map((v) => v.number));
    const confirmations = found.filter((f) => f.card_id === card.id && numbers.has(f.version));
    for (const f of confirmations) {
      const who = pseudonym('person', f.person_id);
      if (!people.has(who)) people.set(who, { key: who });
      const { model: key, version } = f.setting;
      const cutter = pseudonym('cutter', f.cutter_id);
      if (!cutters.has(cutter)) cutters.set(cutter, { real: f.cutter_id, person: who, model: { key, version } });
      blades.set(pseudonym('blade', f.blade_id), f.blade_id);
      models.add(`${key} ${version}`);
    }
    return [
      {
        key: card.id,
        person,
        vinyl: card.vinyl_id,
        wanted: card.wanted,
        versions: mine.map((v) => packVersion(v, card.person_id, card.zone)),
        confirmations: confirmations.map(packConfirmation),
      },
    ];
  });
  const realCutters = [...cutters.values()].map((c) => c.real);
  const [scales, bladeRows, cutterRows, vinyls] = await Promise.all([
    store.scalesToPack(db(), realCutters),
    store.bladesToPack(db(), [...blades.values()]),
    store.cuttersToPack(db(), realCutters),
    store.vinylsToPack(db(), [...new Set(packed.map((c) => c.vinyl))]),
  ]);
  // A scale was read on the version the cutter now has.
  for (const row of cutterRows) {
    const c = cutters.get(pseudonym('cutter', row.id))!;
    c.model = { key: row.model_key, version: row.model_version };
    models.add(`${row.model_key} ${row.model_version}`);
  }
  const angles = new Map(bladeRows.map((b) => [b.id, b.angle]));
  return sealPack({
    format: formatFor(vinyls),
    made: about.made.toISOString(),
    home: about.home,
    title: about.title,
    author: about.author,
    licence: about.licence,
    people: [...people.values()],
    models: (await store.modelsToPack(db(), [...models])).map((m) => m.definition),
    vinyls: vinyls.map((v): PackVinyl => ({
      key: v.id,
      ...(v.root === v.id ? {} : { sameAs: v.root }),
      brand: v.brand,
      name: v.name,
      type: v.type as VinylTypeKey,
      recipe: v.recipe,
      ...(v.leaflet ? { leaflet: v.leaflet } : {}),
      nicknames: v.nicknames,
      colours: v.colours,
    })),
    cutters: [...cutters].map(([key, c]) => ({
      key,
      person: c.person,
      model: c.model,
      scales: scales
        .filter((s) => s.cutter_id === c.real)
        .map(({ position, milligrams }) => ({ position, milligrams })),
    })),
    blades: [...blades].map(([key, real]) => ({ key, angle: angles.get(real) ?? 45 })),
    cards: packed,
  });
}

const licenceForm = z.enum(['cc0', 'cc-by']).catch('cc-by');

/** One card as a pack: for whoever may see it, where its licence lets it be handed on. */
export async function cardPack(
  person: Person | undefined,
  ref: string,
  home: string,
  licence: string | null,
): Promise<{ name: string; pack: Pack }> {
  const card = await cardRow(person, ref);
  if (!isOpen(card.licence))
    throw new NotFound('This card may be read here, and not be handed on: its licence says so.');
  const { vinyl, model } = card.content;
  const name = [vinyl.brand, vinyl.name].filter(Boolean).join(' ');
  const pack = await makePack([card.id], {
    title: `${name} on ${model.name}`.slice(0, 200),
    author: card.author,
    licence: licenceForm.parse(licence),
    home,
    made: card.published_at,
  });
  return { name: fileName(name), pack };
}
const fileName = (text: string) =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'pack';

const asked = z.object({
  q: z.string().max(200).default(''),
  vinyl: z.uuid().optional(),
  page: z.coerce.number<string>().int().min(1).max(1000).default(1),
  licence: licenceForm,
});

/** Packs of the shelf as they were last made: who follows it asks for the same. */
const made = new Map<string, Pack>();
const KEPT = 8;
async function madeBefore(tag: string, make: () => Promise<Pack>): Promise<Pack> {
  const pack = made.get(tag) ?? (await make());
  made.delete(tag);
  made.set(tag, pack);
  for (const old of made.keys()) {
    if (made.size <= KEPT) break;
    made.delete(old);
  }
  return pack;
}

/**
 * A page of the public shelf, or of what a search finds on it, as a pack; with a tag that changes when any of its cards do, so that who
 * follows it asks cheaply.
 */
export async function shelfPack(
  params: URLSearchParams,
  home: string,
  known: readonly string[],
): Promise<{ tag: string; pack: Pack | undefined; next: string | undefined; name: string }> {
  const parsed = asked.safeParse(Object.fromEntries(params));
  if (!parsed.success)
    throw new Invalid({ [String(parsed.error.issues[0]!.path[0])]: parsed.error.issues[0]!.message });
  const { q, vinyl, page, licence } = parsed.data;
  const row = vinyl ? await vinylRow(undefined, vinyl) : undefined;
  const name = row ? [row.brand, row.name].filter(Boolean).join(' ') : q;
  const rows = await store.publicCardIds(db(), row?.id ?? null, searchWords(q), PACK_PAGE * 50 + 1);
  const more = rows.length > page * PACK_PAGE;
  const here = rows.slice((page - 1) * PACK_PAGE, page * PACK_PAGE);
  // The first page answers for all of them: whoever follows the shelf asks for it, and goes on only when something changed. Every other
  // one answers for itself, so that it is sent again only when it did.
  const stamps = (page === 1 ? rows : here).map((r) => r.stamp);
  const tag = `"${createHash('sha256')
    .update(JSON.stringify([home, licence, page, name, more, stamps]))
    .digest('base64url')
    .slice(0, 27)}"`;
  const next = new URLSearchParams({
    ...(q ? { q } : {}),
    ...(vinyl ? { vinyl } : {}),
    ...(licence === 'cc-by' ? {} : { licence }),
    page: String(page + 1),
  });
  return {
    tag,
    name: fileName(name || 'shelf'),
    next: more ? `/packs/shelf?${next}` : undefined,
    pack: known.includes(tag)
      ? undefined
      : await madeBefore(tag, () =>
          makePack(
            here.map((r) => r.id),
            {
              title: (name ? `The shelf: ${name}` : 'The shelf').slice(0, 200),
              author: home.slice(0, 80),
              licence,
              home,
              made: new Date(),
            },
          ),
        ),
  };
}
