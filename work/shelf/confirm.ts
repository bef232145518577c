import { v4 as uuidv4, v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import {
  carrySetting,
  limitsOf,
  passesOf,
  positionsOf,
  startingSetting,
  strengthAxis,
  type Axis,
  type CutterModel,
  type Setting,
} from '#core/controls/index.ts';
import { gradeWords, type Grade } from '#core/grades/index.ts';
import type { Outcome } from '#core/proof/index.ts';
import { nominalLoad } from '#core/window/index.ts';
import * as store from '#store/shelf/cards.ts';
import { db } from '#store/base/db.ts';
import * as cutStore from '#store/cuts/cuts.ts';
import { cardRow } from './cards.ts';
import { cellEvents } from '#work/shelf/evidence.ts';
import { Invalid } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { nextCutId, reportCut } from '#work/cuts/cuts.ts';
import { count } from '#work/people/limits.ts';
import { deliver } from '#work/people/delivery.ts';
import type { Person } from '#work/people/person.ts';
import { readControls } from '#work/coupons/controls.ts';
import { paragraph } from '#work/base/text.ts';
import type { Bench } from '#work/workshop/bench.ts';
import { needAccount } from '#work/people/owned.ts';

/** What somebody can say of a card they cut with. */
const sayings = ['worked', 'more', 'less', 'failed'] as const;

const confirmForm = z
  .object({
    cut: z.uuid({ version: 'v7' }),
    outcome: z.enum(sayings, 'Say how it went.'),
    strength: z.string().max(120, 'That is not a place on the axis.'),
    /** What came out, where it did not work. */
    seen: z.enum(gradeWords).optional().catch(undefined),
    said: paragraph('what you saw', 2000).default(''),
  })
  .refine((f) => f.outcome !== 'failed' || f.seen !== undefined, { path: ['seen'], message: 'Say what came out.' });

/** The next place along an axis that a hand would try: one stop of a dial or list, about 7 % of a number. */
function oneStop(axis: Axis, position: number, way: 1 | -1): number {
  const { min, max } = limitsOf(axis);
  if (axis.kind !== 'number') return Math.min(max, Math.max(min, position + way));
  const load = nominalLoad(axis);
  const next = positionsOf(axis)
    .filter((p) => Math.sign(p - position) === way)
    .sort((a, b) => Math.abs(a - position) - Math.abs(b - position))
    .find((p) => Math.abs(load.at(p) - load.at(position)) >= STOP);
  return next ?? (way > 0 ? max : min);
}
const STOP = 0.07;

/** The controls a card is cut with on another cutter: its own where the model is the same, else those the model starts from. */
const cardControls = (model: CutterModel, card: { model: CutterModel; controls: Setting }): Setting =>
  carrySetting(card.model, model, card.controls) ?? startingSetting(model);

/**
 * "I cut this card": the cut, its grade and what is to be told the author, in one go. It counts on the card, whatever cutter it was cut
 * on. Where one stop more or less put it right, that place is kept as well: it is what the shelf learns from.
 *
 * @throws Invalid with the field and the limits of the axis
 */
export async function confirmCard(
  person: Person,
  bench: Bench,
  ref: string,
  form: FormData,
  address: string,
  at?: Date,
): Promise<void> {
  const input = read(confirmForm, form);
  needAccount(person, 'what you found counts under your name');
  const card = await cardRow(person, ref);
  if (card.person_id === person.id)
    throw new Invalid({ form: 'This card is yours: your own cuts count by themselves.' });
  const { model } = bench.cutter;
  const axis = strengthAxis(model);
  const base = cardControls(model, card.content);
  const setting = readControls(model, form, base, input.strength);
  // The same tap again is no second cut.
  if (await cutStore.cutById(db(), input.cut)) return;
  await count('confirm', person, address);
  const cut = async (id: string, position: number) => {
    const fields = new FormData();
    const used: Setting = { ...setting, steps: { ...setting.steps, [axis.key]: position } };
    for (const [key, value] of Object.entries({
      cut: id,
      vinyl: card.vinyl_id,
      cutter: bench.cutter.id,
      wanted: card.wanted,
      setting: JSON.stringify(used),
    }))
      fields.set(key, value);
    return reportCut(person, bench, fields, at);
  };
  const position = setting.steps[axis.key]!;
  const right: Grade = card.wanted;
  const grade: Grade =
    input.outcome === 'worked'
      ? right
      : input.outcome === 'more'
        ? right === 'through'
          ? 'scored'
          : 'hangs'
        : input.outcome === 'less'
          ? 'scored'
          : input.seen!;
  if (input.outcome === 'failed' && grade === right)
    throw new Invalid({ seen: `${right} is what was wanted. Say what came out instead.` });
  const better =
    input.outcome === 'more'
      ? oneStop(axis, position, 1)
      : input.outcome === 'less'
        ? oneStop(axis, position, -1)
        : null;
  if (better === position) throw new Invalid({ outcome: 'There is no stop further that way on this cutter.' });
  const outcome: Outcome = input.outcome === 'worked' ? 'worked' : input.outcome === 'failed' ? 'failed' : 'almost';
  const cutId = await cut(input.cut, position);
  await store.insertConfirmation(db(), {
    cutId,
    cardId: card.id,
    version: card.number,
    personId: person.id,
    outcome,
    better,
    said: input.said,
    ...(at ? { madeAt: at } : {}),
  });
  const device = uuidv4();
  const deviceAt = (at ?? new Date()).toISOString();
  const events = [];
  for (const [id, word] of [
    [cutId, grade],
    ...(better === null ? [] : [[await cut(nextCutId(), better), right] as const]),
  ] as const) {
    const row = (await cutStore.cutById(db(), id))!;
    events.push({
      id: uuidv7(),
      kind: 'grade',
      cell: row.cell_id,
      figure: 1,
      passes: passesOf(model, setting),
      grade: word,
      device,
      deviceAt,
    });
  }
  await deliver(person, events, [cellEvents]);
}
