import { describe, expect, it } from 'vitest';
import { fahrenheitToMilliCelsius as f } from '../units/index.ts';
import { behaviourOf, blanks, handSchools, type PressWay } from '../vinyls/index.ts';
import { withHabits } from './handHabits.ts';
import { leafletWay, pressAnswer, pressSources, type SaidWay } from './pressAnswer.ts';

// Which of several sources answers: common practice, no source.
const cloth = blanks['plain-cloth'];
const glitter = behaviourOf('glitter');
const way = (heat: number, more: Partial<PressWay> = {}): PressWay => ({
  heat: f(heat),
  seconds: [15, 15],
  cover: 'its own carrier',
  peel: 'warm',
  ...more,
});
const said = (source: SaidWay['source'], heat: number, more: Partial<SaidWay> = {}): SaidWay => ({
  source,
  way: way(heat),
  ...more,
});

describe('the one press answer', () => {
  it('is that of the most trusted source, whatever the order in which they come', () => {
    const all = pressSources.slice(0, -1).map((source, i) => said(source, 300 + i));
    for (let i = 0; i < all.length; i++) {
      const left = all.slice(i);
      for (const ways of [left, left.toReversed()])
        expect(pressAnswer(glitter, cloth, ways).said, pressSources[i]).toBe(left[0]);
    }
    expect(pressAnswer(glitter, cloth, []).said).toMatchObject({ source: 'type', way: { heat: f(325) } });
  });
  it('is one source’s, whole: what that does not say is filled in from no other', () => {
    const leaflet = leafletWay({ source: '', heat: f(320) }, glitter)!;
    const { said: answer } = pressAnswer(glitter, cloth, [{ source: 'leaflet', way: leaflet }]);
    expect(answer!.way).toEqual({ heat: f(320), cover: 'its own carrier', peel: 'by the leaflet' });
    // What a leaflet says of the peel alone is no way to press.
    expect(leafletWay({ source: '', peel: 'hot' }, glitter)).toBeUndefined();
    expect(leafletWay({ source: '', seconds: [5, 5] }, behaviourOf('printable'))).toMatchObject({
      cover: 'a cover sheet',
    });
  });
  it('what is doubted, or only tried by others, stands beside it and never first', () => {
    const answer = pressAnswer(glitter, cloth, [said('own doubted', 330), said('tried by others', 335)]);
    expect(answer.said!.source).toBe('type');
    expect(answer.beside.map((s) => s.source)).toEqual(['own doubted', 'tried by others']);
    // Where nobody says a press it stays unsaid.
    expect(pressAnswer(behaviourOf('reflective'), cloth, [said('own doubted', 330)]).said).toBeUndefined();
  });
  it('of one source, what speaks of this surface and press comes before what speaks of any, and then the newest', () => {
    const answer = pressAnswer(glitter, cloth, [
      said('own written', 310, { close: 0 }),
      said('own written', 311, { close: 2 }),
      said('own written', 312, { close: 2 }),
    ]);
    expect(answer.said!.way.heat).toBe(f(311));
  });
  it('on faux leather only what names it speaks; else it is its type there', () => {
    const leather = (ways: SaidWay[]) => pressAnswer(glitter, blanks.leather, ways).said!.way;
    expect(leather([said('own proven', 325), said('leaflet', 330), said('chosen', 340)])).toMatchObject({
      heat: f(265),
      seconds: [10, 10],
    });
    expect(leather([said('own written', 270, { close: 2 })]).heat).toBe(f(270));
  });
  it('with an iron only the words of its dial speak, until somebody has measured them', () => {
    const ask = (type: 'smooth' | 'glitter' | 'holographic', ways: SaidWay[], measured = false) =>
      pressAnswer(behaviourOf(type), cloth, ways, { measured }).said;
    expect(ask('smooth', [said('leaflet', 305)])!.way).toMatchObject({ word: 'cotton', seconds: [15, 15] });
    expect(ask('glitter', [])!.way).toMatchObject({ word: 'wool, blend', seconds: [30, 30] });
    expect(ask('glitter', [])!.way.next).toHaveLength(1);
    // Not said for this iron.
    expect(ask('holographic', [said('leaflet', 320)])).toBeUndefined();
    expect(ask('holographic', [said('leaflet', 320)], true)!.source).toBe('leaflet');
    expect(ask('holographic', [said('own written', 320, { press: 'mine' })])!.source).toBe('own written');
    // And none of them speaks of a plate.
    expect(pressAnswer(behaviourOf('flock'), cloth, []).said).toBeUndefined();
  });
  it('says where its heat is more than the surface takes; where nothing is pressed it has no number', () => {
    const fur = pressAnswer(glitter, blanks['long-fur'], [said('own proven', 326)]);
    expect(fur.overSurface).toBe('Long pile takes 320 °F (160 °C) at most, we think.');
    expect(pressAnswer(glitter, cloth, [said('own proven', 326)]).overSurface).toBeUndefined();
    for (const [film, blank] of [
      [glitter, blanks.glass],
      [glitter, blanks.balloon],
      [behaviourOf('adhesive'), cloth],
    ] as const)
      expect(pressAnswer(film, blank, [said('own proven', 300)])).toEqual({
        said: undefined,
        beside: [],
        pressed: false,
        overSurface: undefined,
      });
  });
});

describe('habits of hands', () => {
  it('each changes its one field and is named; figures stay', () => {
    const base = way(325);
    for (const [habits, field, value] of [
      [{ peel: 'cold' }, 'peel', 'cold'],
      [{ cover: 'covered' }, 'cover', 'its own carrier, and baking paper over all'],
      [{ after: 'short' }, 'after', 15],
      [{ after: 'long' }, 'after', 30],
      [{ margin: 'kept' }, 'margin', 'kept'],
      [{ margin: 'trimmed' }, 'margin', 'trimmed'],
    ] as const) {
      const { way: changed, says } = withHabits(base, habits);
      expect(changed).toEqual({ ...base, [field]: value });
      expect(says).toHaveLength(1);
    }
    expect(withHabits({ ...base, after: 15 }, { after: 'none' }).way!.after).toBe(0);
  });
  it('what the source says in the same way is no habit to name; every way of hands on the list is known', () => {
    expect(withHabits(way(325), { peel: 'warm', after: 'none' })).toEqual({ way: way(325), says: [] });
    expect(withHabits(undefined, { peel: 'cold' })).toEqual({ way: undefined, says: [] });
    const { cover = [], margin = [], after = [] } = handSchools('glitter');
    for (const { key } of margin) expect(withHabits(way(325), { margin: key }).says).toHaveLength(1);
    expect(cover.map((c) => c.key).sort()).toEqual(['bare', 'covered']);
    expect(after.map((a) => withHabits({ ...way(325), after: 1 }, { after: a.key }).says.length)).toEqual(
      after.map(() => 1),
    );
  });
});
