import { describe, expect, test } from 'vitest';
import { besideLeaflet, leafletSchema, peelKind } from './leaflet.ts';

const leaflet = leafletSchema.parse({
  source: 'leaflet in the pack',
  heat: 155_000,
  seconds: [12, 15],
  pressure: 'medium',
  peel: 'hot',
});
const way = {
  heat: 152_000,
  seconds: [15, 15] as [number, number],
  pressure: 'medium' as const,
  peel: 'cool' as const,
};

describe('a leaflet beside what crafters do', () => {
  test('hot by the leaflet; eleven of twelve here let it cool', () => {
    const voices = [
      ...Array.from({ length: 7 }, () => ({ peel: 'cold' })),
      ...Array.from({ length: 4 }, () => ({ way })),
      { peel: 'hot', way },
    ];
    expect(besideLeaflet(leaflet, voices).peel).toEqual({
      leaflet: 'hot',
      voices: 12,
      alike: 1,
      most: { value: 'cool', n: 11 },
      contradicts: true,
    });
  });
  test('what somebody said of the peel outweighs the way they follow; a way that leaves it to the leaflet says nothing', () => {
    const { peel } = besideLeaflet(leaflet, [{ peel: 'hot', way }, { way: { ...way, peel: 'by the leaflet' } }]);
    expect(peel).toMatchObject({ voices: 1, alike: 1, contradicts: false });
  });
  test('heats and times that a press cannot tell apart are the same', () => {
    const { heat, seconds, pressure } = besideLeaflet(leaflet, [
      { way },
      { way },
      { way: { ...way, heat: 177_000, seconds: [30, 30] } },
    ]);
    expect(heat).toMatchObject({ voices: 3, alike: 2, most: { value: 177_000, n: 1 }, contradicts: false });
    expect(seconds).toMatchObject({ voices: 3, alike: 2, contradicts: false });
    expect(pressure).toMatchObject({ alike: 3, most: undefined });
  });
  test('two voices contradict nobody; what the leaflet leaves out is not compared', () => {
    expect(besideLeaflet(leaflet, [{ peel: 'cold' }, { peel: 'cool' }]).peel).toMatchObject({
      voices: 2,
      contradicts: false,
    });
    expect(besideLeaflet(leafletSchema.parse({ peel: 'warm' }), []).heat).toBeUndefined();
  });
  test('blade and passes beside those of shared cuts', () => {
    const cut = leafletSchema.parse({ blade: 45, passes: 2 });
    const { blade, passes } = besideLeaflet(
      cut,
      [],
      [{ blade: 60, passes: 1 }, { blade: 60, passes: 2 }, { blade: 45 }, { blade: 60, passes: 2 }],
    );
    expect(blade).toEqual({
      leaflet: 45,
      voices: 4,
      alike: 1,
      most: { value: 60, n: 3 },
      contradicts: true,
    });
    expect(passes).toMatchObject({ voices: 3, alike: 2, contradicts: false });
    expect(leafletSchema.safeParse({ blade: 90 }).error!.issues[0]!.path).toEqual(['blade']);
  });
  test('peels fall into three kinds', () => {
    expect(['hot', 'warm', 'lukewarm', 'cool', 'cold', 'by the leaflet'].map(peelKind)).toEqual([
      'hot',
      'warm',
      'warm',
      'cool',
      'cool',
      undefined,
    ]);
  });
});
