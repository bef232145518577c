import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import canonicalize from 'canonicalize';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  checkPack,
  checksum,
  formatFor,
  PackError,
  parseGuarded,
  pseudonym,
  readPack,
  sealPack,
  type Pack,
} from './index.ts';

const text = readFileSync(new URL('../../docs/schemas/pack.example.json', import.meta.url), 'utf8');
const example = JSON.parse(text) as Pack;
const problem = (of: () => unknown): string => {
  try {
    of();
  } catch (error) {
    if (error instanceof PackError) return error.message;
    throw error;
  }
  return 'nothing was wrong';
};

describe('checksums', () => {
  test('the canonical form of RFC 8785, 3.2.2: numbers, escapes, literals', () => {
    const sample = String.raw`{"numbers":[333333333.33333329,1E30,4.50,2e-3,0.000000000000000000000000001],
      "string":"\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"\/","literals":[null,true,false]}`;
    expect(canonicalize(JSON.parse(sample))).toBe(
      String.raw`{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\u000f\nA'B\"\\\\\"/"}`,
    );
  });
  test('keys are sorted by UTF-16 units, as RFC 8785, 3.2.3 has it', () => {
    const sorted = ['\r', '1', '\u0080', '\u00f6', '\u20ac', '\u{1f600}', '\ufb33'];
    const made = Object.fromEntries([...sorted].reverse().map((k) => [k, 1]));
    expect(canonicalize(made)).toBe(`{${sorted.map((k) => `${JSON.stringify(k)}:1`).join(',')}}`);
  });
  test('SHA-256 of "abc" is that of FIPS 180-4; any other that of the platform', () => {
    // The canonical form of a text has quotes: what is hashed here is what the platform is given, quotes and all.
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (s) => {
        expect(checksum(s)).toBe(createHash('sha256').update(JSON.stringify(s)).digest('hex'));
      }),
    );
    expect(createHash('sha256').update('abc').digest('hex')).toBe(
      'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
    );
  });
  test('the order of keys and white space in a file do not matter', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const shuffled = JSON.parse(JSON.stringify(value), (_, v: unknown) =>
          typeof v === 'object' && v !== null && !Array.isArray(v)
            ? Object.fromEntries(Object.entries(v).reverse())
            : v,
        ) as unknown;
        expect(checksum(shuffled)).toBe(checksum(JSON.parse(JSON.stringify(value))));
      }),
    );
  });
});

describe('what comes from somebody unknown', () => {
  test('any JSON comes through as the language reads it', () => {
    fc.assert(
      fc.property(fc.json({ maxDepth: 8 }), fc.constantFrom(undefined, 1, 2), (json, indent) => {
        const written = JSON.stringify(JSON.parse(json), null, indent);
        const said = problem(() => parseGuarded(written));
        if (said === 'nothing was wrong') expect(parseGuarded(written)).toEqual(JSON.parse(written));
        else expect(said).toMatch(/has no place in a pack|no text holds/);
      }),
    );
  });
  test('a pack cut off anywhere is refused, in one line', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: text.trimEnd().length - 1 }), (n) => {
        expect(problem(() => readPack(text.slice(0, n)))).toMatch(/not whole|empty|not JSON/);
      }),
    );
  });
  test('whatever is done to its bytes, it is a pack or is refused: nothing else happens', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(text.length - 1), fc.integer({ min: 0, max: 255 })), { minLength: 1, maxLength: 6 }),
        (changes) => {
          const bytes = new TextEncoder().encode(text);
          for (const [at, to] of changes) bytes[at] = to;
          expect(problem(() => readPack(bytes))).not.toContain('\n');
        },
      ),
      { numRuns: 300 },
    );
  });
  test.each([
    ['{"a": {"constructor": 1}}', /line 1: the key "constructor"/],
    ['{\n"a": 1,\n"a": 2}', /line 3: the key "a" stands twice/],
    ['[1e400]', /1e400 is no number/],
    [`[${'9'.repeat(400)}]`, /a number that is too long/],
    [`[0.${'1'.repeat(5_000_000)}]`, /a number that is too long/],
    ['[1.5.2]', /a number that is too long/],
    ['[-1e400]', /-1e400 is no number/],
    [`${'{"a":'.repeat(30)}1${'}'.repeat(30)}`, /nested deeper than 24/],
    ['[1, 2', /breaks off in line 1 with 1 bracket open/],
    ['[1]]', /"\]" closes nothing/],
    ['{"a" 1}', /not JSON/],
    ["{'a': 1}", /"'" is not JSON/],
    ['', /empty/],
    ['null', /no pack/],
  ])('%s', (json, says) => expect(problem(() => checkPack(parseGuarded(json)))).toMatch(says));
  test('long files cost what they are long: lines are counted once, for the one message', () => {
    const long = `{"a": [${'"x\\u0041y",\n'.repeat(400_000)}"z"], ${Array.from({ length: 100_000 }, (_, i) => `"k${i}": 1`).join(',\n')}, "k7": 2}`;
    expect(problem(() => parseGuarded(long))).toBe('line 500000: the key "k7" stands twice in one object');
  });
  test('texts with millions of escapes, and lists with millions of numbers, are read without a stack', () => {
    expect(parseGuarded(`["${'\\n'.repeat(4_000_000)}"]`)).toHaveLength(1);
    expect(parseGuarded(`[${'1,'.repeat(2_000_000)}1]`)).toHaveLength(2_000_001);
  });
});

describe('a pack', () => {
  test('is what its schema says, by an independent validator of JSON Schema 2020-12', () => {
    const ajv = new Ajv2020({ strict: false });
    addFormats.default(ajv);
    const schema = JSON.parse(
      readFileSync(new URL('../../docs/schemas/pack.schema.json', import.meta.url), 'utf8'),
    ) as object;
    expect(schema).toHaveProperty('$schema', 'https://json-schema.org/draft/2020-12/schema');
    const valid = ajv.compile(schema);
    expect(valid(example), JSON.stringify(valid.errors)).toBe(true);
    const wrong = structuredClone(example) as unknown as { cards: { wanted: string }[] };
    wrong.cards[0]!.wanted = 'fast';
    expect(valid(wrong)).toBe(false);
    expect(problem(() => checkPack(wrong))).toMatch(/^cards\[0\]\.wanted: /);
  });
  test('ways of one press are a pack of the first version; with a sequence it is one of the second, and read', () => {
    const { checksums: _, ...body } = example;
    const way = { heat: 137_778, seconds: [8, 8] as [number, number], cover: 'its own carrier', peel: 'warm' as const };
    const of = (press: NonNullable<Pack['vinyls'][number]['recipe']['press']>) => {
      const vinyls = body.vinyls.map((v) => ({ ...v, recipe: { press } }));
      return { ...body, vinyls, format: formatFor(vinyls) };
    };
    expect(checkPack(sealPack(of([way]))).format).toBe('versipel-pack/1');
    const sequence = of([{ ...way, key: 'short', next: [{ ...way, purpose: 'raise', ask: 'Risen all over?' }] }]);
    expect(sequence.format).toBe('versipel-pack/2');
    expect(checkPack(sealPack(sequence)).vinyls[0]!.recipe).toEqual(sequence.vinyls[0]!.recipe);
    expect(problem(() => checkPack(sealPack({ ...sequence, format: 'versipel-pack/1' })))).toMatch(
      /^vinyls\[0\]\.recipe\.press\[0\]/,
    );
  });
  test('sealed, it is read back; changed in any leaf, it is refused', () => {
    const { checksums: _, ...body } = example;
    expect(checkPack(sealPack(body)).cards).toHaveLength(1);
    const leaves: (string | number)[][] = [];
    const walk = (value: unknown, path: (string | number)[]) => {
      if (typeof value === 'object' && value !== null)
        for (const [k, v] of Object.entries(value)) walk(v, [...path, k]);
      else leaves.push(path);
    };
    walk(example, []);
    fc.assert(
      fc.property(fc.constantFrom(...leaves), (path) => {
        const changed = structuredClone(example) as unknown as Record<string, unknown>;
        const inner = path.slice(0, -1).reduce((o, k) => o[k] as Record<string, unknown>, changed);
        const last = path.at(-1)!;
        inner[last] = typeof inner[last] === 'number' ? inner[last] + 1 : `${String(inner[last])}x`;
        expect(problem(() => checkPack(changed))).not.toBe('nothing was wrong');
      }),
      { numRuns: 200 },
    );
  });
  test.each([
    ['people', (p: Pack) => p.people.push(structuredClone(p.people[0]!)), /people\[2\]: its key stands twice/],
    ['a vinyl that is not there', (p: Pack) => (p.cards[0]!.vinyl = p.cards[0]!.key), /cards\[0\]\.vinyl: there is no/],
    ['an author without a name', (p: Pack) => delete p.people[0]!.name, /cards\[0\]\.person: its author has no name/],
    ['a model that is not there', (p: Pack) => (p.models = []), /there is no marlow-24 of version 1 in models/],
    [
      'a confirmation of a version that is not there',
      (p: Pack) => (p.cards[0]!.confirmations[0]!.version = 7),
      /has no version 7 here/,
    ],
    [
      'a place off the axis',
      (p: Pack) => (p.cards[0]!.confirmations[0]!.better = 5000),
      /confirmations\[0\]\.better: 5000 is not on its strength axis/,
    ],
    [
      'an entry that is the same as itself',
      (p: Pack) => (p.vinyls[0]!.sameAs = p.vinyls[0]!.key),
      /vinyls\[0\]\.sameAs/,
    ],
  ])('that does not hang together is refused: %s', (_, spoil, says) => {
    const spoiled = structuredClone(example);
    spoil(spoiled);
    const { checksums: __, ...body } = spoiled;
    expect(problem(() => checkPack(sealPack(body)))).toMatch(says);
  });
});

test('a pseudonym is the same each time, is of version 8 (RFC 9562), and stays what it is when it travels on', () => {
  const ids = fc.uuid({ version: 7 });
  fc.assert(
    fc.property(ids, ids, (a, b) => {
      const nym = pseudonym('person', a);
      expect(nym).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-8[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
      expect(pseudonym('person', a)).toBe(nym);
      expect(pseudonym('person', nym)).toBe(nym);
      expect(pseudonym('cutter', a)).not.toBe(nym);
      if (a !== b) expect(pseudonym('person', b)).not.toBe(nym);
    }),
  );
});
