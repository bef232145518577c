import { expect, test } from 'vitest';
import { bases, vinylTypeKeys, vinylTypes } from '../vinyls/index.ts';
import { statements, statementsTable } from './statements.ts';

const all = statements((mc) => `${mc / 1000} °C`);

test('every statement says what it rests on and how it is overruled; none stands twice', () => {
  for (const s of all) {
    expect(bases).toContain(s.basis);
    expect(s.overruled, s.says).not.toBe('');
    expect(s.says).not.toMatch(/undefined|NaN/);
  }
  const keys = all.map((s) => `${s.of}: ${s.says}`);
  expect(keys.filter((k, i) => keys.indexOf(k) !== i)).toEqual([]);
});
test('the table counts them by what they rest on', () => {
  const rows = statementsTable((mc) => `${mc}`).split('\n');
  for (const basis of bases) expect(rows).toContain(`| ${basis} | ${all.filter((s) => s.basis === basis).length} |`);
  expect(rows).toContain(`| all | ${all.length} |`);
});
test('guesses are called judgement: thickness, least line and gap, growth, wear, heat ranges, shares and clues', () => {
  const of = vinylTypeKeys.map((k) => vinylTypes[k].word);
  for (const part of ['µm thick', 'its least line', 'an edge grows', 'wears a blade', 'is looked for between']) {
    const said = all.filter((s) => of.includes(s.of) && s.says.includes(part));
    expect(said.length, part).toBeGreaterThan(0);
    expect(new Set(said.map((s) => s.basis)), part).toEqual(new Set(['judgement']));
  }
  expect(all.filter((s) => /with a share of|times as likely/.test(s.says)).every((s) => s.basis === 'judgement')).toBe(
    true,
  );
});
// Common practice, no source: what nobody says is gone.
test('nobody says two presses of ordinary puff, "medium" for plain film, low-tack tape, degrees for foil on cloth', () => {
  const says = (word: string) => all.filter((s) => s.of === word && s.says.startsWith('is pressed')).map((s) => s.says);
  expect(says(vinylTypes.puff.word).some((s) => /and again|twice/.test(s))).toBe(false);
  expect(says(vinylTypes.smooth.word).some((s) => /medium/.test(s))).toBe(false);
  expect(all.some((s) => /low[- ]tack/.test(s.says))).toBe(false);
  expect(says(vinylTypes.foil.word).every((s) => s.includes('on faux leather'))).toBe(true);
  expect(says(vinylTypes['glitter-printable'].word)).toHaveLength(1);
});
