import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { jobLimits } from '#core/job/index.ts';
import { parseDecimal } from '#core/units/index.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';
import { read } from '#work/base/forms.ts';
import { line } from '#work/base/text.ts';
import type { Person } from '#work/people/person.ts';
import { revise } from './jobs.ts';

const finishForm = z.object({
  says: line('what is to be done', 120),
  rest: z
    .string()
    .default('')
    .transform((s) => (s.trim() === '' ? 0 : (parseDecimal(s) ?? NaN)))
    .refine((m) => m >= 0 && m <= 1_440, { message: 'How long it rests: 0 to 1440 minutes, a day.' }),
});

/** Adds a step of one's own at the end of each piece: a ribbon, a weight for an hour. @throws Invalid with a message a field */
export async function addFinish(person: Person, id: string, form: FormData): Promise<void> {
  const { says, rest } = read(finishForm, form);
  await revise(person, id, (plan) => {
    if (plan.finish.length >= jobLimits.finish) throw new Invalid({ says: `At most ${jobLimits.finish} of them.` });
    return { ...plan, finish: [...plan.finish, { id: uuidv7(), says, rest: Math.round(rest * 60) }] };
  });
}

/** Takes one of them out again. */
export async function dropFinish(person: Person, id: string, form: FormData): Promise<void> {
  const { step } = read(z.object({ step: z.uuid() }), form);
  await revise(person, id, (plan) => {
    if (!plan.finish.some((s) => s.id === step)) throw new NotFound('No such step.');
    return { ...plan, finish: plan.finish.filter((s) => s.id !== step) };
  });
}
