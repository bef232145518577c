import { describe, expect, test } from 'vitest';
import { normalise, rules } from './normalise.ts';

const now = Date.parse('2026-12-02T10:30:00Z');
const idAt = (ms: number) => {
  const hex = ms.toString(16).padStart(12, '0');
  return `${hex.slice(0, 8)}-${hex.slice(8)}-7abc-8def-0123456789ab`;
};
const page = (more: {
  nonce: string;
  once: string;
  hash: string;
  id: string;
  at: string;
  field: string;
  css: string;
}) => `<!DOCTYPE html>
<link rel="modulepreload" href="/assets/route-${more.hash}.js"><style data-emotion="vp ${more.css}" nonce="${more.nonce}">.vp-${more.css}{}</style>
<main class="vp-${more.css} head"><h1>Set force to 134</h1><p>93 in 100 · 12 cells</p><time dateTime="2026-11-18T09:30:00.000Z">18 Nov</time>
<img src="/assets/mark.v2-${more.hash}.woff2"><label for="${more.field}-label">Force</label><input name="once" value="${more.once}">
<a href="/vinyls/01932f6a-6355-736f-8cd4-50f8bcc1fb33">Drift</a><b data-id="${more.id}" data-at="${more.at}"></b></main>
<script nonce="${more.nonce}">window.data=[${more.hash.length},"${more.id}"]</script>`;
const one = page({
  nonce: 'aa+b=',
  once: 'k1',
  hash: 'Dx3-_f9a',
  id: idAt(now - 1_000),
  at: '2026-12-02T10:29:59.001Z',
  field: '_R_1ab_',
  css: '1a2b3c',
});
const two = page({
  nonce: 'Zz9/',
  once: 'other',
  hash: 'QQ000000',
  id: idAt(now + 5_000),
  at: '2026-12-02T10:30:05.500Z',
  field: '_r_7_',
  css: 'zz9yyx',
});

describe('two recordings of one page', () => {
  test('are alike although what is made for each answer differs', () => {
    expect(normalise(one, now)).toBe(normalise(two, now));
  });

  test.each([
    ['a number that is set', '134', '135'],
    ['a chance', '93 in 100', '94 in 100'],
    ['a count', '12 cells', '13 cells'],
    ['a moment of long ago', '2026-11-18T09:30:00.000Z', '2026-11-18T09:31:00.000Z'],
    ['an id of long ago', '01932f6a-6355', '01932f6a-6356'],
    ['a word', 'Drift', 'Draft'],
    ['a class of the house', 'head"', 'heading"'],
  ])('are not where it is %s that changed', (_, was, is) => {
    expect(one).toContain(was);
    expect(normalise(one.replace(was, is), now)).not.toBe(normalise(one, now));
  });

  test('every rule says why', () => {
    for (const { what, why } of rules) expect(why.length, what).toBeGreaterThan(10);
  });
});
