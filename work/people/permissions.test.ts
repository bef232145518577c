import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import routes from '#app/routes.ts';
import { can, routeRules } from './permissions.ts';

const app = join(import.meta.dirname, '../../app');
type Entry = { file: string; children?: Entry[] };
const files = (list: readonly Entry[]): string[] => list.flatMap((r) => [r.file, ...files(r.children ?? [])]);
const ids = files(await (routes as unknown as Promise<Entry[]>)).map((f) => f.replace(/\.tsx?$/, ''));

describe('every route', () => {
  test('has a rule, and every rule a route', () => expect([...ids].sort()).toEqual(Object.keys(routeRules).sort()));
  test.each(ids)('%s asks for its own rule before it reads or writes', (id) => {
    const path = ['.tsx', '.ts'].map((e) => join(app, id + e)).find((p) => existsSync(p))!;
    const source = readFileSync(path, 'utf8');
    const rule = routeRules[id as keyof typeof routeRules] as { read?: string; write?: string };
    const reads = /export (async )?function loader/.test(source);
    const writes = /export (async )?function action/.test(source);
    expect(writes).toBe(rule.write !== undefined);
    expect(reads).toBe(rule.read !== undefined);
    if (reads) expect(source).toContain(`enter('${id}', args)`);
    // A form goes through `actions`, which asks; what programs send asks by itself.
    if (writes) expect(source).toMatch(new RegExp(`(actions|enterToWrite)\\('${id.replace(/[$.]/g, '\\$&')}', args`));
  });
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
  ] as const)('%o wants to %s %o: %s', (person, verb, thing, answer) => expect(can(person, verb, thing)).toBe(answer));
});
