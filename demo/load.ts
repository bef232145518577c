import { v7 as uuidv7, v4 as uuidv4 } from 'uuid';
import { atStrength, formatPosition, strengthAxis } from '#core/controls/index.ts';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import { seededRandom } from '#core/stats/index.ts';
import { accountExists, claimAccount } from '#work/people/accounts.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { couponOf } from '#work/coupons/coupons.ts';
import { makeCoupon } from '#work/coupons/plan.ts';
import { takeAll } from '#work/deliver.ts';
import { adoptCard, reportCutWithCard, sayWhatWasSeen } from '#work/shelf/adopt.ts';
import { cardRow } from '#work/shelf/cards.ts';
import { mergeVinyls } from '#work/shelf/mergedVinyls.ts';
import { remark, remarksOf } from '#work/shelf/social.ts';
import { publishCard } from '#work/shelf/publish.ts';
import { nextCutId, cutOf, reportCut } from '#work/cuts/cuts.ts';
import { keepSetting } from '#work/shelf/evidence.ts';
import { baseFor } from '#work/coupons/evidence.ts';
import { readForBlade, refreshReading, settingOf, typeReading } from '#work/coupons/readings.ts';
import { addColour, coloursOf } from '#work/vinyls/catalogue.ts';
import { followSchool } from '#work/vinyls/schools.ts';
import { addLeaflet, sayPeel } from '#work/vinyls/leaflet.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { refreshTranslations } from '#work/shelf/translate.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { addMat } from '#work/workshop/mats.ts';
import { addPress } from '#work/workshop/presses.ts';
import { addScaleReading } from '#work/workshop/scale.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { cutterModels } from '#work/workshop/models.ts';
import { cutByHand } from './cutByHand.ts';
import { form } from './form.ts';
import { loadJobs } from './jobs.ts';
import {
  crowd,
  helpers,
  keyOf,
  leaflets,
  namedTwice,
  password,
  people,
  questions,
  vinyls,
  type DemoCut,
  type DemoHelper,
  type DemoPerson,
} from './parade.ts';
import { placeToSet } from '#core/window/index.ts';

const DAY = 86_400_000;
/** How long people of the demo have worked with their numbers, days. */
const YEAR = 330;

export const demoSignIns = people.map((p) => ({ email: p.email, password, about: `${p.name}: ${p.about}` }));

/** Cuts, grades and keeps what one person of the demo did. Their e-mail comes last: a load cut short is done again. */
async function loadPerson(
  person: Person,
  who: DemoPerson,
  ids: Map<string, string>,
  colours: Map<string, string>,
  cards: Map<string, string>,
  seed: number,
  say: (line: string) => void,
): Promise<Person> {
  const random = seededRandom(seed);
  const device = uuidv4();
  const { model, name, blade, angle, used, bias } = who.cutter;
  await addCutter(person, form({ model, name, blade, angle, used }));
  const bench = (await benchOf(person))!;
  const axis = strengthAxis(bench.cutter.model);
  for (const [done, plan] of who.coupons.entries()) {
    say(`${who.name}: coupon ${done + 1} of ${who.coupons.length}`);
    const madeAt = new Date(Date.now() - plan.daysAgo * DAY);
    const id = await makeCoupon(
      person,
      bench,
      ids.get(plan.vinyl)!,
      form({ cells: String(plan.cells), colour: colours.get(plan.vinyl)! }),
      { createdAt: madeAt },
    );
    const { cells } = await couponOf(person, id);
    const plain = vinyls.find((v) => keyOf(v) === plan.vinyl)!.truth;
    const truth = { ...plain, centre: plain.centre + (plan.lean ?? 0) };
    const at = (minutes: number) => new Date(madeAt.getTime() + minutes * 60_000).toISOString();
    const cutting = plan.grade === 0 ? [] : cells;
    await takeAll(
      person,
      cutting.map((c, i) => ({ id: uuidv7(), kind: 'cut', cell: c.id, passes: 1, device, deviceAt: at(i) })),
    );
    await takeAll(
      person,
      cells.slice(0, plan.grade).map((c, i) => {
        const seen = cutByHand(axis, c.position, truth, bias, random);
        // Somebody looked at the wrong cell.
        const grade = plan.slip === c.number ? gradeWords[(gradeWords.indexOf(seen) + 3) % gradeWords.length]! : seen;
        return { id: uuidv7(), kind: 'grade', cell: c.id, figure: 1, passes: 1, grade, device, deviceAt: at(20 + i) };
      }),
    );
  }
  for (const vinyl of who.keep) {
    const { result } = await refreshReading(person.id, ids.get(vinyl)!, bench.cutter.id, 'clean');
    const position = placeToSet(result.summary).position;
    await keepSetting(
      person,
      form({ vinyl: ids.get(vinyl)!, cutter: bench.cutter.id, strength: formatPosition(axis, position), note: '' }),
    );
  }
  /** "I cut this" at the number that is kept, and what was seen: the grade as it goes into the outbox. */
  const cutAgain = async (cut: DemoCut) => {
    const vinyl = ids.get(cut.vinyl)!;
    const base = await baseFor(person.id, vinyl, bench.cutter, 'clean');
    const madeAt = new Date(Date.now() - cut.daysAgo * DAY);
    const setting = JSON.stringify(atStrength(bench.cutter.model, base, base.steps[axis.key]!));
    const id = await reportCut(
      person,
      bench,
      form({
        cut: nextCutId(),
        vinyl,
        colour: colours.get(cut.vinyl)!,
        cutter: bench.cutter.id,
        wanted: 'clean',
        setting,
      }),
      madeAt,
    );
    if (!cut.grade) return [];
    const { cell, passes } = await cutOf(person, id);
    const deviceAt = new Date(madeAt.getTime() + 3_600_000).toISOString();
    return [{ id: uuidv7(), kind: 'grade', cell, figure: 1, passes, grade: cut.grade, device, deviceAt }];
  };
  for (const [vinyl, good, ...late] of who.year ?? []) {
    say(`${who.name}: a year of ${vinyl}`);
    const grades: Grade[] = [...Array.from({ length: good }, () => 'clean' as const), ...late];
    const events = [];
    for (const [i, grade] of grades.entries())
      events.push(...(await cutAgain({ vinyl, daysAgo: YEAR - Math.round((i * (YEAR - 3)) / grades.length), grade })));
    await takeAll(person, events);
  }
  for (const [i, cut] of who.cuts.entries()) {
    say(`${who.name}: cut ${i + 1} of ${who.cuts.length}`);
    await takeAll(person, await cutAgain(cut));
  }
  // The blade has worn on meanwhile.
  await readForBlade(person.id, bench.cutter.id);
  for (const [vinyl, topic, way] of who.schools) await followSchool(person, ids.get(vinyl)!, form({ topic, way }));
  for (const { vinyl, ...piece } of who.stock)
    await addPiece(person, ids.get(vinyl)!, form({ ...piece, colour: colours.get(vinyl)! }));
  for (const mat of who.mats) await addMat(person, form(mat));
  for (const press of who.presses) await addPress(person, form(press));
  for (const [strength, grams] of who.scale) await addScaleReading(person, bench.cutter.id, form({ strength, grams }));
  await claimAccount(person, form({ email: who.email, password, name: who.name }));
  const author = { ...person, email: who.email, name: who.name, proven: true };
  for (const { vinyl, daysAgo, licence, visibility = 'public', conditions = '' } of who.cards)
    cards.set(
      `${who.email} ${vinyl}`,
      await publishCard(
        author,
        bench,
        form({ vinyl: ids.get(vinyl)!, wanted: 'clean', visibility, licence, conditions }),
        'demo',
        new Date(Date.now() - daysAgo * DAY),
      ),
    );
  return author;
}

/** Adopts the cards of others and cuts with them. */
async function loadHelper(
  person: Person,
  who: DemoHelper,
  ids: Map<string, string>,
  cards: Map<string, string>,
): Promise<Person> {
  const { model, name, blade, angle, used } = who.cutter;
  await addCutter(person, form({ model, name, blade, angle, used }));
  await claimAccount(person, form({ email: who.email, password, name: who.name }));
  const crafter = { ...person, email: who.email, name: who.name, proven: true };
  const bench = (await benchOf(person))!;
  const device = uuidv4();
  for (const cut of who.cuts) {
    const vinyl = ids.get(cut.card)!;
    await adoptCard(crafter, bench, cards.get(`${cut.of} ${cut.card}`)!);
    const kept = (await settingOf(person.id, vinyl, bench.cutter, 'clean'))!;
    const madeAt = new Date(Date.now() - cut.daysAgo * DAY);
    const id = await reportCutWithCard(
      crafter,
      bench,
      form({
        cut: nextCutId(),
        vinyl,
        cutter: bench.cutter.id,
        wanted: 'clean',
        setting: JSON.stringify(kept.controls),
      }),
      'demo',
      madeAt,
    );
    const { cell, passes } = await cutOf(crafter, id);
    const deviceAt = new Date(madeAt.getTime() + 3_600_000).toISOString();
    await takeAll(crafter, [
      { id: uuidv7(), kind: 'grade', cell, figure: 1, passes, grade: cut.grade, device, deviceAt },
    ]);
    if (cut.said) await sayWhatWasSeen(crafter, id, form({ said: cut.said }), 'demo');
  }
  return crafter;
}

/** Loads the demo once; a second start finds it there. It needs an empty database: one that was cut short is loaded anew. */
export async function loadDemo(say: (line: string) => void): Promise<void> {
  if (await accountExists(helpers.at(-1)!.email)) return;
  say('loading the demo: a parade on the river');
  const ids = new Map<string, string>();
  const colours = new Map<string, string>();
  const cards = new Map<string, string>();
  const owner = (await becomeGuest()).person;
  for (const v of vinyls) {
    const said = { brand: v.brand, name: v.name, type: v.type, colour: v.colour, hex: v.hex };
    const line = vinyls.find((o) => o.brand === v.brand && o.name === v.name)!;
    const before = ids.get(keyOf(line));
    if (before) {
      // A further colour of a line that is there.
      ids.set(keyOf(v), before);
      colours.set(keyOf(v), await addColour(owner, before, form({ colour: v.colour, hex: v.hex })));
    } else {
      const id = await addVinyl(owner, said, 'public');
      ids.set(keyOf(v), id);
      colours.set(keyOf(v), (await coloursOf(id))[0]!.id);
    }
  }
  for (const model of await cutterModels())
    for (const type of new Set(vinyls.map((v) => v.type))) await typeReading(model, type);
  const crafters: Person[] = [];
  for (const [i, who] of people.entries())
    crafters.push(await loadPerson((await becomeGuest()).person, who, ids, colours, cards, 20_000 + i, say));
  for (const [i, who] of crowd.entries())
    crafters.push(await loadPerson((await becomeGuest()).person, who, ids, colours, cards, 30_000 + i, say));
  say('others cut with what was shared');
  for (const who of helpers) crafters.push(await loadHelper((await becomeGuest()).person, who, ids, cards));
  for (const q of questions) {
    const card = await cardRow(crafters[people.length + q.asks], cards.get(`${q.of} ${q.card}`)!);
    await remark(crafters[people.length + q.asks]!, card, form({ body: q.question }), 'demo');
    if (q.answer === undefined) continue;
    const author = crafters[people.findIndex((p) => p.email === q.of)]!;
    const [asked] = await remarksOf(author, card);
    await remark(author, card, form({ body: q.answer, answers: asked!.id }), 'demo');
  }
  say('jobs: a sash, a drum cover, a lantern panel');
  await loadJobs(crafters[0]!, ids, colours);
  const twin = await addVinyl(
    owner,
    { brand: namedTwice.brand, name: namedTwice.name, type: 'glitter', colour: 'ember red', hex: '#b0203a' },
    'public',
  );
  await mergeVinyls(owner, twin, ids.get(namedTwice.of)!);
  for (const { vinyl, says, peels } of leaflets) {
    await addLeaflet(crafters[0]!, ids.get(vinyl)!, form(says));
    for (const [i, peel] of peels.entries()) await sayPeel(crafters[i]!, ids.get(vinyl)!, form({ peel }));
  }
  say('reading the shelf');
  await refreshTranslations();
}
