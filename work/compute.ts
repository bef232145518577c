import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import type { Evenness, EvennessQuestion } from '#core/evenness/index.ts';
import { PackError, type Pack } from '#core/pack/index.ts';
import type { Plan, PlanInput } from '#core/planner/index.ts';
import type { ShelfAnswer, ShelfAsked, ShelfQuestion } from '#core/transfer/index.ts';
import type { FitInput, FitResult } from '#core/window/index.ts';

/** Threads that compute for the server. They load core from its source, from the folder the server runs in. */
let pool: Piscina | undefined;
const threads = () =>
  (pool ??= new Piscina({
    filename: resolve('workers/server.worker.ts'),
    execArgv: ['--import', 'tsx'],
    minThreads: 1,
    maxThreads: 2,
    idleTimeout: 60_000,
  }));

/** Reads a coupon off the event loop: a page that is asked for meanwhile does not wait. */
export const fitAside = (input: FitInput): Promise<FitResult> => threads().run({ fit: input });

/** Plans a coupon off the event loop. */
export const planAside = (input: PlanInput): Promise<Plan> => threads().run({ plan: input });

/** Reads a figure cut all over the mat, off the event loop. */
export const evennessAside = (question: EvennessQuestion): Promise<Evenness> => threads().run({ evenness: question });

/** Reads a pack off the event loop: a large one takes seconds. @throws PackError, one line that says where and what */
export async function packAside(bytes: Uint8Array): Promise<Pack> {
  const answer = (await threads().run({ pack: bytes })) as { pack: Pack } | { wrong: string };
  if ('wrong' in answer) throw new PackError(answer.wrong);
  return answer.pack;
}

/** Asks a shelf, off the event loop. A thread that does not know it is given what it is made of. */
export async function shelfAside(
  key: string,
  input: () => Promise<NonNullable<ShelfAsked['input']>>,
  ask: ShelfQuestion,
): Promise<ShelfAnswer> {
  const answer = (await threads().run({ shelf: { key, ask } })) as ShelfAnswer;
  return answer.kind === 'unknown' ? threads().run({ shelf: { key, ask, input: await input() } }) : answer;
}

/** Ends the threads. */
export async function stopComputing(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
