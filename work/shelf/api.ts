import { z } from 'zod';
import { formatSetting, sayStrength, settingSchema, strengthAxis } from '#core/controls/index.ts';
import { standings } from '#core/proof/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import * as store from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import * as vinylStore from '#store/vinyls/vinyls.ts';
import { homeOf, licences } from './cards.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { searchWords } from '#work/base/searchWords.ts';
import { NOBODY } from '#work/people/person.ts';
import { foundIds, vinylRow } from '#work/vinyls/vinyls.ts';
import { byId } from '#work/people/owned.ts';
import { placeToSet } from '#core/window/index.ts';

/** The public, read-only interface: what everybody may see, as JSON. A field once given is never taken away within a version. */
const API_VERSION = 'v1';

const apiQuery = z.object({
  q: z.string().max(200).default('').describe('words to find by, as on the site'),
  page: z.coerce.number<string>().int().min(1).max(10_000).default(1),
  size: z.coerce.number<string>().int().min(1).max(100).default(25).describe('how many a page holds'),
  vinyl: z.uuid().optional().describe('cards of one vinyl only'),
});

const colour = z.object({ name: z.string(), hex: z.string() });
const apiVinyl = z
  .object({
    id: z.uuid(),
    brand: z.string(),
    name: z.string(),
    type: z.enum(vinylTypeKeys),
    colours: z.array(colour),
  })
  .meta({ id: 'Vinyl' });
const apiCard = z
  .object({
    id: z.uuid(),
    version: z.int(),
    published: z.iso.datetime(),
    author: z.string(),
    home: z.string().nullable().describe('the server it came from; null where it was published here'),
    licence: z.enum(licences),
    vinyl: z.object({
      id: z.uuid(),
      brand: z.string(),
      name: z.string(),
      type: z.enum(vinylTypeKeys),
      colour: z.string(),
      hex: z.string(),
    }),
    model: z.object({ key: z.string(), version: z.int(), name: z.string() }),
    wanted: z.enum(['clean', 'through']),
    setting: settingSchema.describe('whole steps of every control of the model'),
    said: z.array(z.object({ word: z.string(), value: z.string() })).describe('the same in the cutter’s own words'),
    strength: z.string().describe('what to set, in words: "force 134"'),
    window: z
      .object({ low: z.number(), high: z.number() })
      .nullable()
      .describe('positions on the strength axis where nine cuts in ten come out as wanted'),
    chance: z.number().min(0).max(1).describe('chance of a cut as wanted at the number shared'),
    cells: z.int().describe('graded cells it rests on'),
    standing: z.enum(standings),
    proof: z.string().describe('one sentence: why it stands there'),
    conditions: z.string(),
  })
  .meta({ id: 'Card' });
const pageOf = <T extends z.ZodType>(item: T, id: string) =>
  z
    .object({
      items: z.array(item),
      page: z.int(),
      size: z.int(),
      next: z.string().nullable().describe('address of the next page; null on the last'),
    })
    .meta({ id });
export const apiCards = pageOf(apiCard, 'Cards');
export const apiVinyls = pageOf(apiVinyl, 'Vinyls');
const apiProblem = z
  .object({ type: z.string(), title: z.string(), status: z.int(), detail: z.string() })
  .meta({ id: 'Problem', description: 'RFC 9457' });

export type ApiCard = z.infer<typeof apiCard>;
export type ApiVinyl = z.infer<typeof apiVinyl>;

function query(params: URLSearchParams): z.infer<typeof apiQuery> {
  const parsed = apiQuery.safeParse(Object.fromEntries(params));
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new Invalid({ [issue.path.join('.')]: issue.message });
}

function toCard(row: store.NewestCard): ApiCard {
  const { vinyl, model, controls, result, conditions, standing } = row.content;
  const axis = strengthAxis(model);
  const position = controls.steps[axis.key]!;
  const { curve, recommended, best, window } = result.summary;
  const at = curve.positions.indexOf(position);
  return {
    id: row.id,
    version: row.number,
    published: row.published_at.toISOString(),
    author: row.author,
    home: homeOf(row) ?? null,
    licence: row.licence,
    vinyl: { id: row.vinyl_id, ...vinyl, type: vinyl.type as ApiCard['vinyl']['type'] },
    model: { key: model.key, version: model.version, name: model.name },
    wanted: row.wanted,
    setting: controls,
    said: formatSetting(model, controls).map(({ word, value }) => ({ word, value })),
    strength: sayStrength(axis, position),
    window: window && { low: window.low, high: window.high },
    chance: at >= 0 ? curve.mean[at]! : placeToSet({ recommended, best }).chance,
    cells: result.evidence.cells,
    standing: row.standing ?? standing,
    proof: row.why ?? '',
    conditions,
  };
}

/** One page more than a page is looked for: whether there is a next one. */
function paged<T>(rows: readonly T[], path: string, { page, size, q, vinyl }: z.infer<typeof apiQuery>) {
  const more = rows.length > size;
  const next = new URLSearchParams({
    ...(q ? { q } : {}),
    ...(vinyl ? { vinyl } : {}),
    page: String(page + 1),
    size: String(size),
  });
  return { items: rows.slice(0, size), page, size, next: more ? `${path}?${next}` : null };
}

/** Public cards, the latest first, or those that fit a search. */
export async function apiListCards(params: URLSearchParams): Promise<z.infer<typeof apiCards>> {
  const asked = query(params);
  const rows = await store.newestCards(
    db(),
    asked.vinyl ?? null,
    searchWords(asked.q),
    asked.size + 1,
    (asked.page - 1) * asked.size,
  );
  return paged(rows.map(toCard), `/api/${API_VERSION}/cards`, asked);
}

/** One public card in its newest version. */
export async function apiOneCard(id: string): Promise<ApiCard> {
  const row = await byId(id, (it) => store.publicCard(db(), it));
  if (!row) throw new NotFound('No such card.');
  return toCard(row);
}

const toVinyl = (row: vinylStore.VinylRow, colours: readonly { name: string; hex: string }[]): ApiVinyl => ({
  id: row.id,
  brand: row.brand,
  name: row.name,
  type: row.type as ApiVinyl['type'],
  colours: colours.map(({ name, hex }) => ({ name, hex })),
});

/** Vinyls everybody may see, by name, or those that fit a search best. */
export async function apiListVinyls(params: URLSearchParams): Promise<z.infer<typeof apiVinyls>> {
  const asked = query(params);
  const upTo = asked.page * asked.size + 1;
  const ids =
    asked.q.trim() === ''
      ? await vinylStore.openVinyls(db(), NOBODY, upTo)
      : await foundIds(undefined, asked.q, Math.min(upTo, 2000));
  const here = ids.slice((asked.page - 1) * asked.size, upTo);
  const [rows, colours] = await Promise.all([vinylStore.vinylsByIds(db(), here), vinylStore.coloursOfMany(db(), here)]);
  const byId = new Map(rows.map((r) => [r.id, r]));
  const list = here.flatMap((id) => {
    const row = byId.get(id);
    return row
      ? [
          toVinyl(
            row,
            colours.filter((c) => c.vinyl_id === id),
          ),
        ]
      : [];
  });
  return paged(list, `/api/${API_VERSION}/vinyls`, asked);
}

export async function apiOneVinyl(id: string): Promise<ApiVinyl> {
  const row = await vinylRow(undefined, id);
  return toVinyl(row, await vinylStore.coloursOfMany(db(), [row.id]));
}

/** The OpenAPI 3.1 document, made from the schemas the answers are made by. */
export function openApi(origin: string): object {
  const registry = z.registry<{ id: string }>();
  for (const schema of [apiCard, apiVinyl, apiCards, apiVinyls, apiProblem])
    registry.add(schema, { id: String(schema.meta()!.id) });
  const { schemas } = z.toJSONSchema(registry, { uri: (id) => `#/components/schemas/${id}`, target: 'draft-2020-12' });
  const clean = Object.fromEntries(
    Object.entries(schemas).map(([name, { $schema: _, $id: __, ...schema }]) => [name, schema]),
  );
  const { properties } = z.toJSONSchema(apiQuery, { io: 'input', unrepresentable: 'any' }) as {
    properties: Record<string, { description?: string }>;
  };
  const parameters = (names: readonly string[]) =>
    names.map((name) => {
      const { description, ...schema } = properties[name]!;
      return { name, in: 'query', required: false, schema, ...(description ? { description } : {}) };
    });
  const answer = (name: string, says: string) => ({
    description: says,
    headers: { ETag: { schema: { type: 'string' } } },
    content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } },
  });
  const problem = (says: string) => ({
    description: says,
    content: { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } },
  });
  const common = {
    '304': { description: 'Nothing changed since the ETag sent as If-None-Match.' },
    '429': problem('Too often; Retry-After says when to come again.'),
  };
  const one = (name: string, says: string) => ({
    get: {
      summary: says,
      parameters: [{ name: 'id', in: 'path', required: true, schema: { type: 'string', format: 'uuid' } }],
      responses: { '200': answer(name, says), '404': problem('There is none, or nobody may see it.'), ...common },
    },
  });
  const list = (name: string, says: string, names: readonly string[]) => ({
    get: {
      summary: says,
      parameters: parameters(names),
      responses: { '200': answer(name, says), '400': problem('A parameter is wrong; detail says which.'), ...common },
    },
  });
  return {
    openapi: '3.1.0',
    info: {
      title: 'Versipel',
      version: '1.0.0',
      description: 'What crafters share, read-only. Each card bears its own licence.',
    },
    servers: [{ url: `${origin}/api/${API_VERSION}` }],
    paths: {
      '/cards': list('Cards', 'Public cards, the latest first or those that fit a search', [
        'q',
        'page',
        'size',
        'vinyl',
      ]),
      '/cards/{id}': one('Card', 'One card'),
      '/vinyls': list('Vinyls', 'Vinyls everybody may see', ['q', 'page', 'size']),
      '/vinyls/{id}': one('Vinyl', 'One vinyl'),
    },
    components: { schemas: clean },
  };
}
