import type { Access } from '#work/people/permissions.ts';
import { takeAll } from '#work/deliver.ts';
import { MAX_EVENTS } from '#work/people/delivery.ts';
import { countEvents } from '#work/people/limits.ts';
import { addressOf, enterToWrite } from '../../server/enter.server.ts';
import type { Route } from './+types/route';

export const access = { write: 'deliver' } as const satisfies Access;

const refuse = (status: number, error: string) => Response.json({ error }, { status });

/**
 * Where outboxes deliver. `{ person, events }` in, one outcome an event out. Delivering twice changes nothing. Events that
 * another person left on this device are not taken: their outbox waits for them.
 */
export async function action(args: Route.ActionArgs) {
  if (args.request.method !== 'POST') return refuse(405, 'Only POST is taken here.');
  const person = (await enterToWrite(access, args))!;
  const text = await args.request.text();
  let body: { person?: unknown; events?: unknown };
  try {
    body = JSON.parse(text) as typeof body;
  } catch {
    return refuse(400, 'The body is not JSON.');
  }
  if (typeof body !== 'object' || body === null || !Array.isArray(body.events))
    return refuse(400, 'events: a list is needed.');
  if (body.events.length > MAX_EVENTS) return refuse(400, `events: at most ${MAX_EVENTS} a delivery.`);
  if (body.person !== undefined && body.person !== person.id)
    return refuse(409, 'Another person is signed in now. The events wait for theirs.');
  await countEvents(person, addressOf(args.context), body.events.length);
  return Response.json({ results: await takeAll(person, body.events) });
}

export const loader = () => refuse(405, 'Only POST is taken here.');
