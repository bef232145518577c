import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { setFor } from '#core/press/index.ts';
import { pressSetting } from './pressSetting.ts';

describe('what is set for a press', () => {
  it('the heat in both scales where no press is known, or its display is right', () => {
    expect(pressSetting({ heat: 151_667, toSet: undefined }, undefined, 'F')).toEqual({
      set: '305 °F',
      really: '152 °C',
      off: false,
    });
    expect(pressSetting({ heat: 151_667, toSet: '305 °F' }, { words: false, off: 0 }, 'C')).toEqual({
      set: '152 °C',
      really: '305 °F',
      off: false,
    });
    expect(pressSetting({ heat: undefined, toSet: undefined }, undefined, 'C')).toBeUndefined();
  });
  it('a word, with about what it has; what a display that is off is to show, with what it really has', () => {
    expect(pressSetting({ heat: 149_000, toSet: 'medium' }, { words: true, off: 0 }, 'F')).toEqual({
      set: '“medium”',
      really: 'about 300 °F',
      off: false,
    });
    expect(pressSetting({ heat: 152_000, toSet: '156 °C' }, { words: false, off: -4_000 }, 'C')).toEqual({
      set: '156 °C',
      really: 'really 152 °C',
      off: true,
    });
  });
  it('says the same as the plan does of the press, whatever the heat and however far its display is off', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 100_000, max: 220_000 }),
        fc.integer({ min: -30_000, max: 30_000 }),
        fc.constantFrom('C' as const, 'F' as const),
        (heat, off, shows) => {
          const { says } = setFor({ levels: [], shows, off }, heat);
          expect(pressSetting({ heat, toSet: says }, { words: false, off }, shows)!.set).toBe(says);
        },
      ),
    );
  });
});
