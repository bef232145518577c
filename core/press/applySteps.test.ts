import { describe, expect, it } from 'vitest';
import { behaviourOf, blanks, type VinylTypeKey } from '../vinyls/index.ts';
import { applySteps, isStencil, tapeFor, type AppliedFilm } from './applySteps.ts';

const film = (type: VinylTypeKey, widthUm = 60_000): AppliedFilm => {
  const { bond, face } = behaviourOf(type);
  return { id: type, name: type, type, bond, face, widthUm };
};
const does = (types: VinylTypeKey[], blank = blanks.wood) =>
  applySteps(
    types.map((t) => film(t)),
    blank,
  ).map((s) => s.does);

describe('not pressed but applied (common practice, no source)', () => {
  it('what is pressed has none of it', () => expect(does(['smooth', 'puff'])).toEqual([]));
  it('one film: clean, tape, lay; two are gathered on the tape, the topmost first', () => {
    expect(does(['adhesive'])).toEqual(['clean', 'tape', 'lay']);
    expect(does(['adhesive', 'glitter-adhesive'])).toEqual(['clean', 'gather', 'lay']);
    const [, gather] = applySteps([film('adhesive'), film('budget-adhesive')], blanks.wood);
    expect(gather!.says[0]).toMatch(/first budget-adhesive, then adhesive/);
  });
  it('ordinary tape is fine, for thin and for stencil film too; on a grain none is known to hold', () => {
    for (const type of ['adhesive', 'budget-adhesive', 'stencil'] as const)
      expect(tapeFor(film(type))).toBe('Ordinary transfer tape.');
    expect(tapeFor(film('glitter-adhesive'))).toMatch(/No tape that was tried holds/);
  });
  it('wide ones by a hinge, very wide ones wet, round a curve with slits in the tape', () => {
    const lay = (um: number, blank = blanks.wood) =>
      applySteps([film('adhesive', um)], blank)
        .find((s) => s.does === 'lay')!
        .says.join(' ');
    expect(lay(60_000)).toMatch(/dry/);
    expect(lay(150_000)).toMatch(/hinge/);
    expect(lay(300_000)).toMatch(/wet/);
    // Slits only where it is round: a coaster is flat, a cup is not.
    expect(lay(60_000)).not.toMatch(/slit/);
    expect(lay(60_000, blanks.glass)).not.toMatch(/slit/);
    expect(lay(60_000, { ...blanks.glass, round: true } as typeof blanks.glass)).toMatch(/It is round: slit the tape/);
    expect(lay(60_000, blanks.balloon)).toMatch(/slit the tape.*small words only.*never a needle/);
    expect(lay(60_000, blanks.balloon)).not.toMatch(/prick/);
  });
  it('a stencil is painted through and comes off; halves are glued under a weight for an hour', () => {
    expect(does(['stencil'])).toEqual(['clean', 'tape', 'lay', 'paint', 'off']);
    // What is pressed is no stencil, whatever was said when another film was chosen.
    expect(isStencil({ type: 'smooth', bond: 'heat', stencil: true })).toBe(false);
    // Any film that sticks serves as one, the cheap one best.
    const cheap = applySteps([{ ...film('budget-adhesive'), stencil: true }], blanks.glass);
    expect(cheap.map((s) => s.does)).toEqual(['clean', 'tape', 'lay', 'paint', 'off']);
    const glued = applySteps([film('faux-leather')], blanks.leather);
    expect(glued.map((s) => [s.does, s.rest])).toEqual([
      ['glue', 3_600],
      ['finish', undefined],
    ]);
  });
});
