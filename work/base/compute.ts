import { resolve } from 'node:path';
import { Piscina } from 'piscina';
import type { Artwork } from '#core/artwork/index.ts';
import type { CutterModel } from '#core/controls/index.ts';
import type { Judged, JudgeInput, seeTable } from '#core/tables/index.ts';
import type { Evenness, EvennessQuestion } from '#core/evenness/index.ts';
import type { SwatchInput, SwatchResult } from '#core/press/index.ts';
import { PackError, type Pack } from '#core/pack/index.ts';
import type { Plan, PlanInput } from '#core/planner/index.ts';
import type { ShelfAnswer, ShelfAsked, ShelfQuestion } from '#core/transfer/index.ts';
import type { FitInput, FitResult } from '#core/window/index.ts';
import { turnOf, whoAsks } from './asking.ts';
import { Busy, Invalid } from './errors.ts';
import { quotas } from './quotas.ts';
import { Turns } from './turns.ts';

/** Threads that compute for the server. */
const THREADS = 2;
/** What a thread loads, from the folder the server runs in: the built file in production and where a test brings one, else core's source. */
const door =
  process.env.NODE_ENV === 'production' || process.env.VERSIPEL_BUILT === '1'
    ? { filename: resolve('build/lib/server.worker.mjs') }
    : { filename: resolve('workers/server.worker.ts'), execArgv: ['--import', 'tsx'] };

// The launcher and the built application carry this module once each: they share the threads and the turns.
const shared = globalThis as { versipelThreads?: Piscina | undefined; versipelThreadTurns?: Turns };
const threads = () =>
  (shared.versipelThreads ??= new Piscina({
    ...door,
    minThreads: 1,
    maxThreads: THREADS,
    idleTimeout: 60_000,
    // A thread that would take the memory of the house ends instead, and its task with it.
    resourceLimits: { maxOldGenerationSizeMb: 1024 },
  }));
// One asker never holds all threads: the other one is for everybody else.
const turns = (shared.versipelThreadTurns ??= new Turns({
  together: THREADS,
  each: THREADS - 1,
  waiting: quotas.threads.waiting,
  waitingEach: quotas.threads.waitingEach,
  seconds: quotas.threads.seconds,
}));

/**
 * Runs a task on a thread when it is its turn. A task that takes longer than its deadline is ended with its thread.
 * @throws Busy where too many wait, or it took too long
 */
async function aside<T>(task: object): Promise<T> {
  const seconds = whoAsks() ? quotas.threads.seconds : quotas.threads.background;
  const run = async (): Promise<T> => {
    const deadline = AbortSignal.timeout(seconds * 1000);
    try {
      return (await threads().run(task, { signal: deadline })) as T;
    } catch (error) {
      if (deadline.aborted || (error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Busy('This takes longer to compute than a page may. Nothing was changed.', { cause: error });
      throw error;
    }
  };
  // Work in the background has its turn as one asker among the others, and waits as long as it takes.
  return whoAsks() ? turns.take(turnOf(), run) : turns.wait(turnOf(), run);
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
  const answer = await aside<{ artwork: Artwork } | { wrong: string }>({ artwork: svg });
  if ('wrong' in answer) throw new Invalid({ file: `${answer.wrong}.` });
  return answer.artwork;
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
