import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test, vi } from 'vitest';
import routes from '#app/routes.ts';
import { can, type Access } from './permissions.ts';

const app = join(import.meta.dirname, '../../app');
type Entry = { file: string; children?: Entry[] };
const files = (list: readonly Entry[]): string[] => list.flatMap((r) => [r.file, ...files(r.children ?? [])]);
const ids = files(await (routes as unknown as Promise<Entry[]>)).map((f) => f.replace(/\.tsx?$/, ''));

/** A door that lets nobody in and says what it was asked for: whatever a route does before it stands there is seen. */
class Asked extends Error {
  constructor(
    readonly how: 'read' | 'write',
    readonly access: unknown,
  ) {
    super(how);
  }
}
vi.mock('#app/server/enter.server.ts', async (original) => ({
  ...(await original<object>()),
  enter: (access: unknown) => Promise.reject(new Asked('read', access)),
  enterToWrite: (access: unknown) => Promise.reject(new Asked('write', access)),
  actions: (access: unknown) => Promise.reject(new Asked('write', access)),
  visitor: () => Promise.reject(new Error('asked who is here before the door was open')),
}));
vi.mock('#store/base/db.ts', async (original) => ({
  ...(await original<object>()),
  db: () => {
    throw new Error('looked into the database before the door was open');
  },
}));

type Module = { access?: Access } & Partial<Record<'loader' | 'action', (args: unknown) => unknown>>;
describe('every route', () => {
  test.each(ids)('%s says what it asks for, and asks for it before it reads or writes', async (id) => {
    const path = ['.tsx', '.ts'].map((e) => join(app, id + e)).find((p) => existsSync(p))!;
    const { access, loader, action } = (await import(path)) as Module;
    expect(access).toBeDefined();
    if (access!.read) expect(loader).toBeDefined();
    expect(action !== undefined).toBe(access!.write !== undefined);
    // Addresses that break early would never come to the door: ids and words are none that anything knows.
    const params = new Proxy({}, { get: () => 'xx', has: () => true });
    const url = 'http://127.0.0.1/nowhere';
    for (const [how, run] of [
      ['read', loader],
      ['write', action],
    ] as const) {
      if (!run) continue;
      // A loader without a verb shows nothing to anybody: it points elsewhere, or says that only forms are taken.
      if (how === 'read' && !access!.read) {
        const answer = run({});
        expect(answer).toBeInstanceOf(Response);
        expect([302, 405]).toContain((answer as Response).status);
        continue;
      }
      const request = new Request(url, how === 'write' ? { method: 'POST', body: new URLSearchParams({}) } : {});
      const told = await Promise.resolve()
        .then(() => run({ request, params, context: {} }))
        .catch((error: unknown) => error);
      expect(told, `${how} did not ask at its door`).toBeInstanceOf(Asked);
      expect(told).toMatchObject({ how });
      expect((told as Asked).access).toBe(access);
    }
  });
});

/** Acts that only who keeps order may do: each is named at the door of its route, so that forgetting it in work opens nothing. */
const kept: Record<string, string[] | 'all'> = {
  'routes/order/route': 'all',
  'routes/packs/route': ['follow', 'ask', 'unfollow'],
  'routes/cards.$card/route': ['hide'],
};
test('who keeps order is asked for at the door of every act that keeps it', async () => {
  for (const id of ids) {
    const path = ['.tsx', '.ts'].map((e) => join(app, id + e)).find((p) => existsSync(p))!;
    const { access } = (await import(path)) as { access: Access };
    const acts = Object.entries(access.acts ?? {}).flatMap(([act, verb]) => (verb === 'moderate' ? [act] : []));
    const wanted = kept[id];
    expect(access.write === 'moderate', id).toBe(wanted === 'all');
    expect(acts, id).toEqual(Array.isArray(wanted) ? wanted : []);
  }
});

describe('who may what', () => {
  const guest = { id: 'g', email: null };
  const member = { id: 'm', email: 'm@example.org' };
  const of = (owner: string, visibility = 'private') => ({ owner, visibility });
  test.each([
    [undefined, 'look round', undefined, true],
    [undefined, 'begin', undefined, true],
    [undefined, 'deliver', undefined, false],
    [guest, 'deliver', undefined, true],
    [guest, 'claim', undefined, true],
    [member, 'claim', undefined, false],
    [guest, 'see', of('g'), true],
    [guest, 'see', of('m'), false],
    [undefined, 'see', of('m'), false],
    [undefined, 'see', of('m', 'public'), true],
    [guest, 'see', of('m', 'link'), true],
    [guest, 'change', of('m', 'public'), false],
    [undefined, 'change', of('m', 'public'), false],
    [member, 'change', of('m'), true],
    [guest, 'grade', of('m'), false],
    [member, 'grade', of('m'), true],
    [undefined, 'share', undefined, false],
    [guest, 'share', undefined, false],
    [member, 'share', undefined, true],
    [member, 'see', undefined, false],
    [member, 'change', undefined, false],
    [undefined, 'moderate', undefined, false],
    [guest, 'moderate', undefined, false],
    [{ ...guest, steward: true }, 'moderate', undefined, false],
    [member, 'moderate', undefined, false],
    [{ ...member, steward: true }, 'moderate', undefined, true],
  ] as const)('%o wants to %s %o: %s', (person, verb, thing, answer) => expect(can(person, verb, thing)).toBe(answer));
});
