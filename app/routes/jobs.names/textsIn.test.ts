import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { textsIn } from './textsIn.ts';

describe('names out of what was pasted', () => {
  test.each([
    ['one a line', 'Ida\nNoor\n\n  Mo \n', ['Ida', 'Noor', 'Mo']],
    ['the first column of a table, without its heading', '\uFEFFName;Kind\r\n"Ida";M\r\n"Zoë";L\r\n', ['Ida', 'Zoë']],
    ['tabs, as a spreadsheet copies them', 'Ida\tM\nNoor\tL', ['Ida', 'Noor']],
    ['a name with a comma in quotation marks', '"Ida, the first",M\nNoor,L', ['Ida, the first', 'Noor']],
    ['a heading alone', 'Names\n', []],
    ['spaces within', 'Ida   van\u00a0Doorn', ['Ida van Doorn']],
    ['nothing', '', []],
  ])('%s', (_, text, names) => expect(textsIn(text)).toEqual(names));
  test('letters written as two signs are one: e with a diaeresis', () => expect(textsIn('Zoe\u0308')).toEqual(['Zoë']));
  test('names of letters come back as they were, whatever stands in other columns (500 lists)', () => {
    const name = fc.stringMatching(/^[A-Z][a-z]{0,11}$/).filter((n) => !/^(names?|numbers?)$/i.test(n));
    fc.assert(
      fc.property(fc.array(fc.tuple(name, fc.stringMatching(/^[a-z0-9 ]{0,6}$/)), { maxLength: 30 }), (rows) => {
        expect(textsIn(rows.map(([n, size]) => `${n},${size}`).join('\n'))).toEqual(rows.map(([n]) => n));
      }),
      { numRuns: 500, seed: 9 },
    );
  });
  test('whatever is pasted ends in names of bounded length, or in an error that says what is wrong with it (1 000 texts)', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 400, unit: 'binary' }), (text) => {
        try {
          for (const n of textsIn(text)) expect(n.length).toBeLessThanOrEqual(60);
        } catch (error) {
          expect(String(error)).toMatch(/Quote|quote/);
        }
      }),
      { numRuns: 1_000, seed: 4 },
    );
  });
});
