import { createHash } from 'node:crypto';
import { resolve } from 'node:path';
import { serialize } from 'node:v8';
import { Piscina } from 'piscina';
import type { Artwork, Mend } from '#core/artwork/index.ts';
import type { CutterModel } from '#core/controls/index.ts';
import type { Judged, JudgeInput, seeTable } from '#core/tables/index.ts';
import type { Evenness, EvennessQuestion } from '#core/evenness/index.ts';
import type { SwatchInput, SwatchResult } from '#core/press/index.ts';
import { PackError, type Pack } from '#core/pack/index.ts';
import type { Plan, PlanInput } from '#core/planner/index.ts';
import type { ShelfAnswer, ShelfAsked, ShelfQuestion } from '#core/transfer/index.ts';
import type { FitInput, FitResult } from '#core/window/index.ts';
import { inTransaction } from '#store/base/db.ts';
import { asker, whoAsks, type Asking } from './asking.ts';
import { Busy, Invalid, TooMany } from './errors.ts';
import { log } from './log.ts';
import { quotas } from './quotas.ts';
import { Spent } from './spent.ts';
import { FairLimiter } from './fairLimiter.ts';

/** Drawings of guests: all of them together leave a thread free. */
const GUESTS_DRAWING = 'drawing of a guest';
/** Threads that compute for the server. */
const THREADS = 2;
/** What a thread loads, from the folder the server runs in: the built file in production and where a test brings one, else core's source. */
const door =
  process.env.NODE_ENV === 'production' || process.env.VERSIPEL_BUILT === '1'
    ? { filename: resolve('build/lib/server.worker.mjs') }
    : { filename: resolve('workers/server.worker.ts'), execArgv: ['--import', 'tsx'] };

// The launcher and the built application carry this module once each: they share the threads and the turns.
const shared = globalThis as {
  versipelThreads?: Piscina | undefined;
  versipelThreadTurns?: FairLimiter;
  versipelSpent?: Spent;
};
const threads = () =>
  (shared.versipelThreads ??= new Piscina({
    ...door,
    minThreads: 1,
    maxThreads: THREADS,
    idleTimeout: 60_000,
    // A thread that would take the memory of the house ends instead, and its task with it.
    resourceLimits: { maxOldGenerationSizeMb: 768, maxYoungGenerationSizeMb: 32 },
  }));
// What each asker and each address has used of the threads lately, seconds.
const spent = (shared.versipelSpent ??= new Spent(60));
// One asker never holds all threads: the other one is for everybody else, and so it is for all drawings of guests together.
const turns = (shared.versipelThreadTurns ??= new FairLimiter(
  {
    together: THREADS,
    each: THREADS - 1,
    kinds: { [GUESTS_DRAWING]: THREADS - 1 },
    waiting: quotas.threads.waiting,
    waitingEach: quotas.threads.waitingEach,
    seconds: quotas.threads.seconds,
  },
  (name) => spent.of(name, Date.now()),
));

/** What must be computed before a transaction can be: no write turn and no connection is held meanwhile. */
class ComputeFirst extends Error {
  readonly compute: () => Promise<void>;
  constructor(compute: () => Promise<void>) {
    super('computed before the transaction');
    this.compute = compute;
  }
}
/**
 * So often an act is begun anew for what it needs computed. One that asks for something else each time, as where an id it makes is part of the
 * question, then computes within its transaction.
 */
const AGAIN = 24;

/**
 * Does a whole act, of which a transaction is a part. Where that needs something computed on a thread it is rolled back, the thread computes
 * with nothing held, and the act is done again with what was found: an act is all or nothing, so doing it again is doing it once.
 */
export async function computedFirst<T>(act: () => Promise<T>): Promise<T> {
  const who = whoAsks();
  // Inside another act it is a part of that.
  if (!who || inTransaction()) return act();
  who.computed ??= new Map();
  for (let n = 0; ; n++)
    try {
      return await act();
    } catch (error) {
      if (!(error instanceof ComputeFirst)) throw error;
      if (n >= AGAIN) {
        log.warn({ event: 'computed within' }, 'an act asks for something else each time it is begun');
        delete who.computed;
        return act();
      }
      await error.compute();
    }
}

/** Runs a task on a thread: at once, or for a transaction of a request before that, see `computedFirst`. @throws Busy, TooMany */
async function aside<T>(task: object, seconds: number = quotas.threads.seconds): Promise<T> {
  const who = whoAsks();
  const computed = who?.computed;
  if (!computed || !inTransaction()) return onThread(task, seconds);
  const key = createHash('sha256').update(serialize(task)).digest('base64url');
  if (computed.has(key)) return computed.get(key) as T;
  throw new ComputeFirst(async () => void computed.set(key, await onThread(task, seconds)));
}

/** Runs a task on a thread when it is its turn. One that takes longer than its deadline, or that nobody waits for any more, is ended with its thread. */
async function onThread<T>(task: object, seconds: number): Promise<T> {
  const who = whoAsks();
  const run = async (): Promise<T> => {
    const deadline = AbortSignal.timeout(1000 * (who ? left(who, seconds) : quotas.threads.background));
    const began = performance.now();
    try {
      const signal = who?.gone ? AbortSignal.any([deadline, who.gone]) : deadline;
      return (await threads().run(task, { signal })) as T;
    } catch (error) {
      if (deadline.aborted || who?.gone?.aborted || (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Busy('This takes longer to compute than a page may. Nothing was changed.', { cause: error });
      throw error;
    } finally {
      const used = (performance.now() - began) / 1000;
      for (const name of namesOf(who)) spent.add(name, used, Date.now());
    }
  };
  // Work in the background has its turn as one asker among the others, and waits as long as it takes.
  if (!who) return turns.wait(asker(), run);
  const { asker: each, address: all } = quotas.threads.perMinute;
  const now = Date.now();
  if (spent.of(asker().name, now) > each || spent.of(`address ${who.address}`, now) > all)
    throw new TooMany('That was a lot to compute within a minute. Wait a minute, then go on. Nothing was lost.', 1);
  const kind = ('artwork' in task || 'mends' in task) && who.account === undefined ? GUESTS_DRAWING : undefined;
  return turns.take({ ...asker(), ...(kind ? { kind } : {}) }, run);
}

/** Under which names what is used is added up. */
const namesOf = (who: Asking | undefined): string[] =>
  who ? [asker().name, `address ${who.address}`] : [asker().name];

/** Seconds that are left for a task of a request, of its own and of all that the request may take. @throws Busy */
function left(who: Asking, seconds: number): number {
  const now = Date.now();
  who.until ??= now + 1000 * quotas.threads.request;
  const all = (who.until - now) / 1000;
  if (all <= 0) throw new Busy('This takes longer to compute than a page may. Nothing was changed.');
  return Math.min(seconds, all);
}

/** Reads a coupon off the event loop: a page that is asked for meanwhile does not wait. */
export const fitOnThread = (input: FitInput): Promise<FitResult> => aside({ fit: input });

/** Reads swatches and plans the next card, off the event loop. */
export const swatchOnThread = (input: SwatchInput): Promise<SwatchResult> => aside({ swatch: input });

/** Plans a coupon off the event loop. */
export const planOnThread = (input: PlanInput): Promise<Plan> => aside({ plan: input });

/** Reads a figure cut all over the mat, off the event loop. */
export const evennessOnThread = (question: EvennessQuestion): Promise<Evenness> => aside({ evenness: question });

/** Reads a pack off the event loop: a large one takes seconds. @throws PackError, one line that says where and what */
export async function packOnThread(bytes: Uint8Array): Promise<Pack> {
  const answer = await aside<{ pack: Pack } | { wrong: string }>({ pack: bytes });
  if ('wrong' in answer) throw new PackError(answer.wrong);
  return answer.pack;
}

/** Asks a shelf, off the event loop. A thread that does not know it is given what it is made of. */
export async function shelfOnThread(
  key: string,
  input: () => Promise<NonNullable<ShelfAsked['input']>>,
  ask: ShelfQuestion,
): Promise<ShelfAnswer> {
  const answer = await aside<ShelfAnswer>({ shelf: { key, ask } });
  return answer.kind === 'unknown' ? aside({ shelf: { key, ask, input: await input() } }) : answer;
}

/** Reads a file as a table, off the event loop: megabytes take a second. @throws Invalid at "file" */
export async function tableOnThread(
  name: string,
  bytes: Uint8Array,
  model: CutterModel | undefined,
): Promise<ReturnType<typeof seeTable>> {
  const answer = await aside<{ table: ReturnType<typeof seeTable> } | { wrong: string }>({
    table: { name, bytes, model },
  });
  if ('wrong' in answer) throw new Invalid({ file: answer.wrong });
  return answer.table;
}

/** Judges every row of a table. @param ready whether what is new is made ready to be added */
export const judgeOnThread = (input: JudgeInput, ready: boolean): Promise<Judged> => aside({ judge: { input, ready } });

/** Reads a drawing, off the event loop: joining shapes and looking for narrow places takes seconds. @throws Invalid at "file" */
export async function artworkOnThread(svg: string): Promise<Artwork> {
  const answer = await aside<{ artwork: Artwork } | { wrong: string }>({ artwork: svg }, quotas.threads.drawing);
  if ('wrong' in answer) throw new Invalid({ file: `${answer.wrong}.` });
  return answer.artwork;
}

/** Mends a drawing, off the event loop. @throws Invalid at "form" where nothing would be left of it */
export async function mendsOnThread(
  artwork: Artwork,
  mends: readonly Mend[],
  widthUm: number,
): Promise<{ svg: string; widthUm: number }> {
  const answer = await aside<{ svg: string; widthUm: number } | { wrong: string }>(
    { mends: { artwork, mends, widthUm } },
    quotas.threads.drawing,
  );
  if ('wrong' in answer) throw new Invalid({ form: `${answer.wrong}.` });
  return answer;
}

/** Draws a paper from what it says: fonts, layout and codes of four hundred rows take seconds. */
export const paperOnThread = async (definition: object): Promise<Uint8Array> => aside({ paper: definition });

/** Ends the threads. */
export async function stopComputing(): Promise<void> {
  await shared.versipelThreads?.destroy();
  shared.versipelThreads = undefined;
}
/** Puts rows of a table right, cells by line. */
export const mendOnThread = (content: string, mended: ReadonlyMap<number, readonly string[]>): Promise<string> =>
  aside({ mend: { content, mended } });
