import { beforeEach, describe, expect, test } from 'vitest';
import { behaviourOf, overridesSchema, pressWaySchema, type Overrides, type VinylTypeKey } from '#core/vinyls/index.ts';
import { tipsFor } from '#work/jobs/beside.ts';
import { checkFilms } from '#work/jobs/check.ts';
import { jobOf } from '#work/jobs/view.ts';
import type { Person } from '#work/people/person.ts';
import { addRecipe } from '#work/vinyls/recipes.ts';
import { form } from '../bench.ts';
import { ownHouse } from '../house.ts';
import { job, someone, two, vinyl } from '../pressed.ts';
import { rows } from '../testDatabase.ts';

// Each field a person can set, of a vinyl or of a recipe, is followed to the step it changes: by the lists of fields themselves.
const house = ownHouse();
let person: Person;
beforeEach(async () => {
  person = await someone();
});

/** What somebody says of a vinyl otherwise than its type, and of which type: each field once. */
const said: Record<keyof typeof overridesSchema.shape, { of?: VinylTypeKey; more: Overrides }> = {
  side: { more: { side: 'backing down' } },
  cutFrom: { more: { cutFrom: 'face' } },
  carrier: { more: { carrier: 'dull' } },
  mat: { more: { mat: 'high grip' } },
  carry: { of: 'adhesive', more: { carry: 'none' } },
  filmUm: { more: { filmUm: 400 } },
  carrierUm: { more: { carrierUm: 200 } },
  minFeatureUm: { more: { minFeatureUm: 6_000 } },
  minGapUm: { more: { minGapUm: 6_000 } },
  growthUm: { more: { growthUm: 900 } },
  minLengthUm: { more: { minLengthUm: 600_000 } },
  opacity: { more: { opacity: 'clear' } },
  wear: { more: { wear: 9 } },
  tack: { more: { tack: 'low' } },
  heat: { more: { heat: { from: 120_000, to: 130_000 } } },
  notOn: { more: { notOn: ['nylon', 'mesh'] } },
  press: { more: { press: [{ heat: 141_000, seconds: [21, 21], cover: 'baking paper', peel: 'cold' }] } },
};

/** All that the steps of a job, and the check of its drawing, take from a vinyl. */
async function shownOf(id: string, surface: string) {
  // What sticks is taken up by itself: several are gathered on one tape.
  const stuck = surface === 'glass';
  const svg = stuck ? two.replace('#b3202c', '#1f3a5f') : two;
  const view = await jobOf(person, await job(person, stuck ? [id] : [id, id], { svg, surface }));
  const check = (await checkFilms(person)).find((f) => f.key === id)!;
  return {
    lies: view.layers.map((l) => [l.vinyl!.behaviour.side, l.vinyl!.behaviour.cutFrom, l.vinyl!.behaviour.carrier]),
    mat: view.layers.map((l) => l.vinyl!.behaviour.mat),
    film: view.layers.map((l) => [l.film!.width, l.film!.height]),
    needs: view.layers.map((l) => l.needs),
    tips: tipsFor(view),
    press: view.press.map(({ what: _, layers: __, ...s }) => s),
    troubles: [view.pressPlan.cautions, view.troubles.map((t) => t.why), view.layers.map((l) => l.suits?.verdict)],
    check: { ...check, key: '', name: '' },
  };
}

describe('what is said of a vinyl', () => {
  test.each(Object.keys(overridesSchema.shape) as (keyof typeof overridesSchema.shape)[])('%s', async (field) => {
    const { of = 'smooth', more } = said[field];
    const surface = of === 'adhesive' ? 'glass' : field === 'notOn' ? 'mesh' : 'plain-cloth';
    const [plain, other] = await Promise.all([
      vinyl(person, `plain ${field}`, of),
      vinyl(person, `other ${field}`, of),
    ]);
    await rows(house.url, 'update vinyl set behaviour = $2 where id = $1', [other, JSON.stringify(more)]);
    expect(JSON.stringify(more)).not.toBe(JSON.stringify({ [field]: behaviourOf(of)[field] }));
    // Layers bear ids of their own, and the vinyls names: all else is alike but for this one field.
    const told = async (id: string) =>
      JSON.stringify(await shownOf(id, surface))
        .replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, 'id')
        .replaceAll(`plain ${field}`, 'it')
        .replaceAll(`other ${field}`, 'it');
    expect(await told(other)).not.toBe(await told(plain));
    expect(await told(plain)).toBe(await told(plain));
  });
});

describe('what a recipe says', () => {
  const base = { heat: '305', unit: 'F', from: '12', to: '12', surface: '', cover: 'baking paper', peel: 'warm' };
  const fields: Record<string, Record<string, string>> = {
    heat: { heat: '330' },
    seconds: { from: '31', to: '31' },
    pressure: { pressure: 'heavy' },
    cover: { cover: 'a non-stick sheet' },
    peel: { peel: 'cold' },
    wait: { wait: '77' },
    before: { before: '13' },
    after: { after: '19' },
    back: { back: '17' },
    support: { support: 'pillow' },
    margin: { margin: 'kept' },
    shrink: { drawn: '100', pressed: '97' },
    then: { then: 'Rub it with a cloth.' },
    next: { heat1: '280', seconds1: '9' },
  };
  test('each field of the form changes a step, or what is said of its layer', async () => {
    // Keys and words are of types and irons; a purpose and a question are followed in press.test; a range has its hottest.
    const notAsked = ['key', 'word', 'purpose', 'upTo'];
    expect(Object.keys(fields).toSorted()).toEqual(
      Object.keys(pressWaySchema.shape)
        .filter((k) => !notAsked.includes(k))
        .toSorted(),
    );
    const shown = async (more: Record<string, string>) => {
      const id = await vinyl(person, 'same');
      await addRecipe(person, id, form({ ...base, ...more }));
      // By itself, and under another: a last press of all stands for the one after the peel.
      const views = [
        await jobOf(person, await job(person, [id], { svg: two.replace('#b3202c', '#1f3a5f') })),
        await jobOf(person, await job(person, [id, id], { svg: two })),
      ];
      return JSON.stringify(
        views.map((view) => [
          view.press.map(({ layers: _, what: __, ...s }) => s),
          view.layers.map((l) => l.hands),
          view.pressPlan.cautions,
          view.pressPlan.says,
        ]),
      ).replace(/[0-9a-f]{8}-[0-9a-f-]{27}/g, 'id');
    };
    const plain = await shown({});
    expect(await shown({})).toBe(plain);
    for (const [field, more] of Object.entries(fields)) expect(await shown(more), field).not.toBe(plain);
  });
});
