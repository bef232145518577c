import { expect, test } from 'vitest';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { behaviourTable } from './behaviourTable.ts';

test('both tables have a row a type', () => {
  for (const key of vinylTypeKeys)
    expect(behaviourTable(String).match(new RegExp(`^\\| ${key} \\|`, 'gm'))).toHaveLength(2);
});
