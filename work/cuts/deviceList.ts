import { readFileSync } from 'node:fs';
import { z } from 'zod';
import type { Person } from '#work/people/person.ts';

/**
 * The cutters that can be reached over a line. Only whoever runs the server names them, in the JSON file that
 * VERSIPEL_CUTTERS points to; nothing typed in the application becomes an address.
 */
const deviceSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9-]{0,40}$/),
  name: z.string().min(1).max(60),
  host: z.string().min(1).max(253),
  port: z.int().min(1).max(65_535).describe('raw TCP, HP-GL'),
  models: z.array(z.string()).min(1).describe('keys of the cutter models it can stand for'),
  people: z.array(z.string().min(3)).optional().describe('e-mails of those who may send; everybody when left out'),
  simulated: z.boolean().default(false),
  camera: z
    .url({ protocol: /^http$/ })
    .optional()
    .describe('where a simulated cutter shows what a cell looks like after weeding'),
});
export type Device = z.infer<typeof deviceSchema>;

let list: Device[] | undefined;

/** The administrator's list, read once. @throws with file and place when it cannot be read */
export function devices(): Device[] {
  if (list) return list;
  const file = process.env.VERSIPEL_CUTTERS;
  if (!file) return (list = []);
  let raw: unknown;
  try {
    raw = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new Error(`VERSIPEL_CUTTERS: ${file} is not a JSON file: ${(error as Error).message}`, { cause: error });
  }
  const parsed = z.array(deviceSchema).safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new Error(`VERSIPEL_CUTTERS: ${file}: ${issue.path.join('.')}: ${issue.message}`);
  }
  const keys = parsed.data.map((d) => d.key);
  const twice = keys.find((k, i) => keys.indexOf(k) !== i);
  if (twice) throw new Error(`VERSIPEL_CUTTERS: ${file}: two cutters are called "${twice}"`);
  return (list = parsed.data);
}

/** Whether somebody is on the list of people of a cutter: by an address they have proven is theirs. */
const isNamed = (person: Person | undefined, people: readonly string[]): boolean =>
  person?.proven === true && people.some((p) => p.toLowerCase() === person.email?.toLowerCase());

/** Cutters that a person may send to, for one model. */
export const devicesFor = (person: Person | undefined, model: string): Device[] =>
  devices().filter((d) => d.models.includes(model) && (!d.people || isNamed(person, d.people)));
