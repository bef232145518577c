import { readFileSync } from 'node:fs';
import { createConnection } from 'node:net';
import { z } from 'zod';
import type { Person } from '#work/people/person.ts';

/** Presses whose heat can be read over a line, docs/presses-on-a-line.md. Only whoever runs the server names them. */
const lineSchema = z.strictObject({
  key: z.string().regex(/^[a-z][a-z0-9-]{0,40}$/),
  name: z.string().min(1).max(80),
  host: z.string().min(1).max(253),
  port: z.int().min(1).max(65_535),
  people: z.array(z.string().min(3)).optional().describe('e-mails of those who may read it; everybody when left out'),
  simulated: z.boolean().default(false),
});
export type PressLine = z.infer<typeof lineSchema>;
const saidSchema = z.object({
  format: z.literal('versipel-plate/1'),
  celsius: z.number().min(-50).max(400),
  set: z.number().min(-50).max(400),
  closed: z.boolean(),
});
export type PlateSaid = z.infer<typeof saidSchema>;

let list: PressLine[] | undefined;
/** The administrator's list, read once. @throws with file and place when it cannot be read */
export function pressLines(): PressLine[] {
  if (list) return list;
  const file = process.env.VERSIPEL_PRESSES;
  if (!file) return (list = []);
  let raw: unknown;
  try {
    raw = JSON.parse(readFileSync(file, 'utf8'));
  } catch (error) {
    throw new Error(`VERSIPEL_PRESSES: ${file} is not a JSON file: ${(error as Error).message}`, { cause: error });
  }
  const parsed = z.array(lineSchema).safeParse(raw);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new Error(`VERSIPEL_PRESSES: ${file}: ${issue.path.join('.')}: ${issue.message}`);
  }
  return (list = parsed.data);
}

const may = (person: Person | undefined, { people }: PressLine): boolean =>
  !people || (person?.proven === true && people.some((p) => p.toLowerCase() === person.email?.toLowerCase()));

/** The line of a press of somebody's: the one of its name, else the simulated one. */
export function lineFor(person: Person | undefined, name: string | undefined): PressLine | undefined {
  const mine = pressLines().filter((l) => may(person, l));
  return mine.find((l) => l.name === name) ?? mine.find((l) => l.simulated);
}

const LONGEST = 1_000;
const DEADLINE = 1_000;
const reading = new Map<string, { at: number; said: Promise<PlateSaid | undefined> }>();

/** What a plate says now; undefined where it says nothing in time, or nothing that can be read. Asked again within half a second it is not asked. */
export function plateNow(line: PressLine): Promise<PlateSaid | undefined> {
  const known = reading.get(line.key);
  if (known && Date.now() - known.at < 500) return known.said;
  const said = new Promise<PlateSaid | undefined>((done) => {
    let text = '';
    const socket = createConnection({ host: line.host, port: line.port });
    const end = (answer: PlateSaid | undefined) => {
      clearTimeout(timer);
      socket.destroy();
      done(answer);
    };
    const timer = setTimeout(() => end(undefined), DEADLINE);
    socket.setEncoding('utf8');
    socket.on('error', () => end(undefined));
    socket.on('close', () => end(undefined));
    socket.on('data', (more: string) => {
      text += more;
      const stop = text.indexOf('\n');
      if (stop < 0) return text.length > LONGEST ? end(undefined) : undefined;
      try {
        const parsed = saidSchema.safeParse(JSON.parse(text.slice(0, stop)));
        end(parsed.success ? parsed.data : undefined);
      } catch {
        end(undefined);
      }
    });
  });
  reading.set(line.key, { at: Date.now(), said });
  return said;
}

/** Tells the simulated press what hands did at the run. A real one is only read. */
export function tellStandIn(person: Person, name: string | undefined, words: string): void {
  const line = lineFor(person, name);
  if (!line?.simulated) return;
  const socket = createConnection({ host: line.host, port: line.port });
  socket.on('error', () => undefined);
  socket.setTimeout(DEADLINE, () => socket.destroy());
  socket.end(`${words}\n`);
}
