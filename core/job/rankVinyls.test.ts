import { describe, expect, it } from 'vitest';
import { isProposal, rankVinyls, type LayerPlace, type VinylOffer } from './rankVinyls.ts';

const WHITE: LayerPlace = { blank: '#ffffff', covered: false };
const NAVY: LayerPlace = { blank: '#1f2f4f', covered: false };

describe('which vinyl for a layer', () => {
  const offer = (id: string, hex: string, more: Partial<VinylOffer> = {}): VinylOffer => ({
    id,
    hex,
    suits: 'suits',
    inStock: false,
    standing: undefined,
    opacity: 'opaque',
    raised: false,
    printed: false,
    ...more,
  });
  const order = (offers: VinylOffer[], hex = '#b3202c', at = WHITE) => rankVinyls(offers, hex, at).map((o) => o.id);
  it('what the surface takes comes before everything', () => {
    expect(
      order([offer('not', '#b3202c', { suits: 'not', inStock: true, standing: 'proven' }), offer('suits', '#b52430')]),
    ).toEqual(['suits', 'not']);
  });
  it('proven in stock outranks the nearer colour', () => {
    expect(
      order([offer('nearer', '#b3202c'), offer('proven', '#b8313d', { inStock: true, standing: 'proven' })]),
    ).toEqual(['proven', 'nearer']);
  });
  it('what was tested here outranks what lies in stock untested', () => {
    expect(
      order([offer('stock', '#b3202c', { inStock: true }), offer('tested', '#b3202c', { standing: 'tried' })]),
    ).toEqual(['tested', 'stock']);
  });
  it('another colour altogether is no help, proven or not', () => {
    expect(order([offer('blue', '#1040c0', { inStock: true, standing: 'proven' }), offer('red', '#b3202c')])).toEqual([
      'red',
      'blue',
    ]);
  });
  it('a white moth on navy: a clear film is navy there, a printable one wants a print, an opaque white is white', () => {
    const found = rankVinyls(
      [
        offer('clear', '#ffffff', { opacity: 'clear', inStock: true, standing: 'proven' }),
        offer('print', '#ffffff', { printed: true, inStock: true, standing: 'proven' }),
        offer('white', '#f8f6f0'),
      ],
      '#ffffff',
      NAVY,
    );
    expect(found.map((o) => [o.id, o.words])).toEqual([
      ['white', ['same colour']],
      ['clear', ['other colour', 'in stock']],
      ['print', ['print first', 'same colour', 'in stock']],
    ]);
  });
  it('what rises is no layer to lie on, and comes first where nothing lies on it', () => {
    const two = [offer('puff', '#b3202c', { raised: true, standing: 'proven' }), offer('plain', '#b3202c')];
    expect(order(two, '#b3202c', { blank: '#ffffff', covered: true })).toEqual(['plain', 'puff']);
    expect(order(two)).toEqual(['puff', 'plain']);
  });
  it('a film in the colour of its blank is said to hardly show', () => {
    const [first, last] = rankVinyls(
      [offer('navy', '#203050', { standing: 'proven' }), offer('sky', '#3d5fa0')],
      '#203050',
      NAVY,
    );
    expect([first!.id, last!.words]).toEqual(['sky', ['hardly shows', 'same colour']]);
    // On the film of another layer it is that film it is seen on.
    const [onFilm] = rankVinyls([offer('navy', '#203050')], '#203050', { ...NAVY, onFilm: true });
    expect(onFilm!.words).toEqual(['same colour']);
  });
  it('proposed unasked is only what is in hand and has nothing against it', () => {
    const of = (more: Partial<VinylOffer>, at = WHITE) =>
      isProposal(rankVinyls([offer('one', '#b3202c', more)], '#b3202c', at)[0]!);
    expect(of({})).toBe(false);
    expect(of({ inStock: true })).toBe(true);
    expect(of({ standing: 'tried' })).toBe(true);
    expect(of({ standing: 'doubted' })).toBe(false);
    expect(of({ inStock: true, suits: 'not' })).toBe(false);
    expect(of({ inStock: true, printed: true })).toBe(false);
    expect(of({ inStock: true }, { blank: '#b52230', covered: false })).toBe(false);
  });
});
