import { describe, expect, test } from 'vitest';
import { commonPassword } from './passwords.ts';

describe('passwords that are refused', () => {
  test.each([
    'password123',
    'Passw0rd2024!',
    'qwertyuiop',
    'aaaaaaaaaaaa',
    'abcabcabcabc',
    '1234567890',
    '0987654321',
    'iloveyou2026',
    'welcome12345',
    'letmeinletmein',
    'sunshine!!!',
    'P@ssw0rd!!',
    'qwerty12345',
    'dragonmonkey',
  ])('%s is among the first that are tried', (p) => expect(commonPassword(p)).toBe(true));
  test.each([
    'lantern river seven',
    'four moths at noon',
    'Grebe-tallow-19-kite',
    'ütliberg nebelhorn',
    'zq8r-w2kd-77fp',
  ])('%s is taken', (p) => expect(commonPassword(p)).toBe(false));
});
