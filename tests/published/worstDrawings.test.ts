import { expect, test } from 'vitest';
import { readArtwork } from '#core/artwork/index.ts';
import { worstDrawings } from '#bench/worstDrawings.ts';

// Each of these held a thread for half a minute or for ever: now the run would end at its time if one did again. How long they take against
// a bare union is measured by `bin/bench artwork`.
test.each(worstDrawings().map((d) => [d.name, d] as const))(
  '%s: read, or refused with a sentence',
  (_, { svg, expected }) => {
    if (expected instanceof RegExp) {
      expect(() => readArtwork(svg)).toThrow(expected);
      return;
    }
    const { layers, notes } = readArtwork(svg);
    expect(layers.length).toBeGreaterThan(0);
    expect(notes.some((n) => n.includes('Dashes too fine'))).toBe(expected === 'drawn whole');
  },
);
