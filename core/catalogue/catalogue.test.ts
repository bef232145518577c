import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fabricTraits, heatLimits, peels, pressures, vinylTypeKeys, type Overrides } from '../vinyls/index.ts';
import {
  columns,
  guessColumns,
  readHeat,
  readLength,
  readRow,
  recordKey,
  sayCell,
  writeRow,
  type CatalogueRecord,
} from './index.ts';

const context = { ownTypes: new Map([['chunky glitter', 'glitter' as const]]) };
const row = (cells: Record<string, string>) => readRow({ name: 'Starling', type: 'glitter', ...cells }, context);
const whyOf = (cells: Record<string, string>) => row(cells).problems.map((p) => `${p.column}: ${p.why}`);

describe('lengths and heats', () => {
  const wide = { min: 0, max: 1e9 };
  // Factors: NIST SP 811 (2008), B.8: inch 25.4 mm exactly, mil 25.4 µm exactly.
  test.each([
    ['80', 'µm', 80],
    ['80 μm', 'mm', 80],
    ['0,08 mm', 'µm', 80],
    ['12 in', 'mm', 304_800],
    ['12"', 'mm', 304_800],
    ['3 mil', 'µm', 76],
    ['5 m', 'mm', 5_000_000],
    ['2 ft', 'mm', 609_600],
    ['½ in', 'mm', 12_700],
  ])('%s in a column of %s', (text, unit, um) => expect(readLength(text, unit, wide)).toBe(um));
  test.each(['12 kg', 'thick', '', '1,500', '5 m²'])('%s is no length', (text) =>
    expect(() => readLength(text, 'mm', wide)).toThrow(),
  );
  // t/°C = (t/°F − 32)/1.8: NIST SP 811, B.8.
  test.each([
    ['320 °F', 160_000],
    ['160°C', 160_000],
    ['305 f', 151_667],
    ['149,5 C', 149_500],
  ])('%s', (text, mc) => expect(readHeat(text)).toBe(mc));
  test.each([
    ['160', 'says no unit'],
    ['900 °F', 'no heat of a press'],
    ['40 °C', 'no heat of a press'],
    ['430 K', 'has the unit "K"'],
    ['hot', 'is not a temperature'],
  ])('%s: %s', (text, why) => expect(() => readHeat(text)).toThrow(why));
});

describe('one row', () => {
  test('says every problem with its column, and takes nothing of a row with one', () => {
    expect(whyOf({ name: '' })).toEqual(['name: is missing']);
    expect(whyOf({ type: 'velvetine' })[0]).toContain('type: "velvetine" is no type known here');
    expect(whyOf({ film_um: '12 kg', press_heat: '900 °F', press_seconds: '10' })).toEqual([
      'film_um: has the unit "kg", which is no length; use µm, um, mm, cm, m, in, ", ft, mil',
      'press_heat: 900 °F is no heat of a press: 100 to 220 °C, 212 to 428 °F',
    ]);
    expect(row({ film_um: '12 kg' }).record).toBeUndefined();
    expect(whyOf({ colours: 'red #12gg00' })).toEqual([
      'colours: "#12gg00" is no colour: write # and six digits 0 to f',
    ]);
    expect(whyOf({ colours: 'red; Red' })).toEqual(['colours: names Red twice']);
    expect(whyOf({ press_peel: 'cold' })).toEqual([
      'press_seconds: is missing: the other columns of the press mean nothing without it',
    ]);
    expect(whyOf({ heat_range: '145 °C – 150 °C', press_seconds: '10', press_heat: '160 °C' })).toEqual([
      'press_heat: lies outside the heat it takes',
    ]);
    expect(whyOf({ sizes: 'roll 305 mm x 5 m 12.50' })).toHaveLength(1);
    expect(whyOf({ note: 'x'.repeat(2001) })).toEqual(['note: has 2001 characters; 2000 fit']);
  });
  test.each(['=1+1', '+cmd', '-2+3', '@SUM(A1)', '\tx', '=HYPERLINK("x")'])(
    'a cell like a formula is refused: %s',
    (cell) => expect(whyOf({ note: cell })[0]).toContain('begins like a formula'),
  );
  test('numbers with a sign are no formula; a type of one’s own is taken for what it is like', () => {
    expect(row({ note: '-5' }).record!.note).toBe('-5');
    expect(row({ type: 'Chunky Glitter' }).record).toMatchObject({ type: 'glitter', ownType: 'Chunky Glitter' });
  });
  test('letters that are no UTF-8 and signs that turn the writing are refused', () => {
    expect(whyOf({ name: 'Caf\ufffd' })[0]).toContain('not UTF-8');
    expect(whyOf({ name: 'a\u202eb' })[0]).toContain('control characters');
  });
});

const word = fc
  .string({ unit: fc.constantFrom(...'abcdefgh ÄéøŁ½&=+-@\'"'.split('')), minLength: 1, maxLength: 12 })
  .map((s) => s.normalize('NFC').trim())
  .filter((s) => s !== '' && !/^'[=+\-@]/.test(s));
const um = (max: number) => fc.integer({ min: 0, max });
const heat = fc.integer({ min: heatLimits.min, max: heatLimits.max });
const behaviour = fc.record(
  {
    side: fc.constantFrom('carrier down' as const, 'backing down' as const, 'face down' as const),
    cutFrom: fc.constantFrom('back' as const, 'face' as const),
    mat: fc.constantFrom('ordinary' as const, 'high grip' as const, 'none' as const),
    filmUm: um(5000),
    minFeatureUm: um(50_000),
    growthUm: um(10_000),
    wear: fc.integer({ min: 1, max: 200 }).map((n) => n / 10),
    notOn: fc.uniqueArray(fc.constantFrom(...fabricTraits), { minLength: 1 }),
    press: fc
      .record({
        seconds: fc.tuple(fc.integer({ min: 1, max: 90 }), fc.integer({ min: 90, max: 180 })),
        heat,
        pressure: fc.constantFrom(...pressures),
        cover: fc.constantFrom('baking paper', 'its own carrier'),
        peel: fc.constantFrom(...peels),
      })
      .map((w) => [w]),
  },
  { requiredKeys: [] },
);
const record: fc.Arbitrary<CatalogueRecord> = fc.record({
  brand: fc.oneof(word, fc.constant('')),
  name: word,
  type: fc.constantFrom(...vinylTypeKeys),
  ownType: fc.constant(''),
  colours: fc.uniqueArray(
    fc.record({
      name: fc.constantFrom('red', 'old gold', 'ñandú', 'n° 4'),
      hex: fc.constantFrom('#b0203a', '#000000'),
    }),
    { selector: (c) => c.name },
  ),
  nicknames: fc.uniqueArray(fc.constantFrom('sparkle', 'the good one')),
  codes: fc.uniqueArray(fc.constantFrom('0123', 'AB-9')),
  behaviour: behaviour as fc.Arbitrary<Overrides>,
  sizes: fc.array(
    fc.record(
      {
        kind: fc.constantFrom('roll' as const, 'sheet' as const),
        widthUm: fc.integer({ min: 10_000, max: 5_000_000 }),
        lengthUm: fc.integer({ min: 10_000, max: 100_000_000 }),
        price: fc.record({ minor: fc.integer({ min: 0, max: 99_999 }), currency: fc.constantFrom('EUR', 'USD') }),
      },
      { requiredKeys: ['kind', 'widthUm', 'lengthUm'] },
    ),
    { maxLength: 3 },
  ),
  note: fc.oneof(word, fc.constant('')),
});

test('what is written is read back to the digit, and written the same again', () => {
  fc.assert(
    fc.property(record, (r) => {
      // Sizes that are the same to the letter are one.
      const once = { ...r, sizes: [...new Map(r.sizes.map((s) => [JSON.stringify(s), s])).values()] };
      const cells = writeRow(once);
      for (const cell of cells) expect(cell).not.toMatch(/^[=@\t\r]/);
      const back = readRow(Object.fromEntries(columns.map((c, i) => [c.key, cells[i]!])), context);
      expect(back.problems).toEqual([]);
      expect(back.record).toEqual(once);
      expect(writeRow(back.record!)).toEqual(cells);
    }),
    { numRuns: 300 },
  );
});

test('headings of other tables find their column, none twice; what is for people bears units', () => {
  expect(
    guessColumns(['Brand', 'Product name', 'Colours', 'Type', 'Press heat', 'xyzzy', 'brand', 'Film (µm)']),
  ).toEqual(['brand', 'name', 'colours', 'type', 'press_heat', undefined, undefined, 'film_um']);
  expect(recordKey({ brand: 'Ferrule  & Sons', name: ' PLAIN' })).toBe(
    recordKey({ brand: 'ferrule & sons', name: 'plain' }),
  );
  const said = row({ heat_range: '300 °F – 320 °F', film_um: '80' }).record!;
  const say = (key: string) =>
    sayCell(
      columns.find((c) => c.key === key)!,
      said,
    );
  expect([say('heat_range'), say('film_um'), say('tack')]).toEqual(['149 °C (300 °F) – 160 °C (320 °F)', '80 µm', '']);
});
