import type { From, VinylRow } from './list.ts';

/** The number to set for a vinyl, and where it comes from. */
export type NumberOnBench = { position: number; from: From | 'kept'; sure: boolean };

/** What is kept comes first, then what the reading advises, then where to look first. */
export function numberFor(row: Pick<VinylRow, 'kept' | 'result' | 'from'>): NumberOnBench | undefined {
  if (row.kept !== undefined) return { position: row.kept, from: 'kept', sure: true };
  if (!row.result) return undefined;
  const { recommended, best } = row.result.summary;
  return { position: (recommended ?? best).position, from: row.from, sure: row.from !== 'type' };
}
