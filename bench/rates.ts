import { z } from 'zod';
import { Rates } from '#work/base/rates.ts';

/** What one count costs while so many others are counted: a stranger's keys make nobody's count dearer. */
export const casesSchema = z.strictObject({
  format: z.literal('versipel-rates-cases/1'),
  keys: z.array(z.int().min(1).max(1_000_000)).min(1).max(10),
  counts: z.int().min(100).max(1_000_000),
});
type Cases = z.infer<typeof casesSchema>;
export const makeCases = (_seed: number, each: number): Cases => ({
  format: 'versipel-rates-cases/1',
  keys: [10, 20_001, 200_000],
  counts: 10_000 * each,
});
type Row = { keys: number; microseconds: number };

export async function run({ keys, counts }: Cases): Promise<Row[]> {
  const rows: Row[] = [];
  for (const n of keys) {
    const rates = new Rates();
    for (let i = 0; i < n; i++) await rates.count('write', `address ${i}`, 1e9, 1);
    const from = performance.now();
    for (let i = 0; i < counts; i++) await rates.count('write', `address ${i % n}`, 1e9, 1);
    rows.push({ keys: n, microseconds: Number(((1000 * (performance.now() - from)) / counts).toFixed(2)) });
  }
  return rows;
}

export const table = (rows: Row[]): string =>
  [
    '| keys that are counted | µs a count |',
    '| ---: | ---: |',
    ...rows.map((r) => `| ${r.keys} | ${r.microseconds} |`),
  ].join('\n');
