import { AsyncLocalStorage } from 'node:async_hooks';
import { createHash } from 'node:crypto';
import pg from 'pg';

// bigint columns hold lengths in µm and counts: far below 2^53.
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

export type Query = {
  query: <R extends pg.QueryResultRow>(
    text: string | { name: string; text: string; values: unknown[] },
    values?: unknown[],
  ) => Promise<pg.QueryResult<R>>;
};

/** How many connections a process holds, and how long each may keep the others waiting, ms. */
export const dbLimits = {
  /** The server PostgreSQL that bin/start makes takes 40 in all: two processes of 14, the queue of each (3), and whoever looks in by hand. */
  connections: 14,
  /** Whoever gets no connection by then is told to come back. */
  connect: 4_000,
  /** A statement of a page. Work in the background asks for more with `patiently`. */
  statement: 12_000,
  /** A transaction whose process has gone quiet gives its locks back. */
  idleInTransaction: 60_000,
} as const;

/**
 * An error that is known by its name: the launcher and the built application carry such a class once each, and mean the same by it. `kind`
 * is that name; a bundler may rename the class.
 */
export class KnownByName extends Error {
  static readonly kind: string = 'KnownByName';
  constructor(message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = new.target.kind;
  }
  static override [Symbol.hasInstance](error: unknown): boolean {
    return error instanceof Error && error.name === this.kind;
  }
}

/**
 * The database cannot answer just now: it stops, starts, is full, or takes too long. Nothing was changed; the same request can be sent again.
 */
export class Unavailable extends KnownByName {
  static override readonly kind = 'Unavailable';
}

/** A value that PostgreSQL can keep nowhere, such as text with a NUL: the fault of what was sent. */
export class BadValue extends KnownByName {
  static override readonly kind = 'BadValue';
}

// PostgreSQL 15, appendix A: 08 connection, 53 resources, 57 intervention (57014 is a statement timeout), 25P03 idle too long,
// 40 a transaction that lost against another.
const GONE = /^(08|53|57)|^25P03$|^40/;
// Text that is not UTF-8 or holds a NUL, a number or moment out of range, a word that is no id.
const BAD = /^(22021|22P05|22P02|22003|22007|22008)$/;
const LOST =
  /^(Connection terminated|timeout exceeded|Client has encountered a connection error|Client was closed|The server does not support|Cannot use a pool after)/;
const NETWORK = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH']);

/** An error of the database as the rest of the product knows it: its own kind, whatever the driver called it. */
function said(error: unknown): unknown {
  if (!(error instanceof Error) || error instanceof Unavailable || error instanceof BadValue) return error;
  const { code } = error as { code?: string };
  if ((code && (GONE.test(code) || NETWORK.has(code))) || LOST.test(error.message))
    return new Unavailable(`the database does not answer: ${error.message}`, { cause: error });
  if (code && BAD.test(code)) return new BadValue(error.message, { cause: error });
  return error;
}

/** Whether an error says that there is one already of which there can be one only (23505, unique_violation). */
export const alreadyThere = (error: unknown): boolean => (error as { code?: string }).code === '23505';

/** Whether the same transaction may succeed if it is run again: it lost against another one (serialization, deadlock). */
const lostToAnother = (error: unknown): boolean =>
  error instanceof Unavailable && /^40/.test(String((error.cause as { code?: string } | undefined)?.code ?? ''));

/**
 * Statements that read are prepared once a connection: planning the joins of a list takes longer than running it. Their texts are
 * those that stand in this room, so there are few; nothing that somebody typed is ever part of one.
 */
const names = new Map<string, string>();
function prepared(text: string, values: unknown[]) {
  let name = names.get(text);
  if (name === undefined) {
    name = createHash('sha256').update(text).digest('base64url').slice(0, 24);
    names.set(text, name);
  }
  return { name, text, values };
}

/** One transaction that is under way: the connection it holds, what waits for its end, and where savepoints are. */
type Within = {
  q: Query;
  open: boolean;
  /** Runs one after the other what would nest: two savepoints at once would undo each other. */
  turn: Promise<unknown>;
  depth: number;
  after: (() => unknown)[];
};

/** The launcher and the built application carry this module once each: what must be there once in a process hangs on the process. */
const shared = globalThis as {
  versipelPool?: pg.Pool | undefined;
  versipelPulse?: pg.Pool | undefined;
  versipelWithin?: AsyncLocalStorage<Within>;
};
const within = (shared.versipelWithin ??= new AsyncLocalStorage<Within>());

function pool(): pg.Pool {
  if (!shared.versipelPool) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error('DATABASE_URL is not set: start Versipel with bin/start or bin/demo');
    shared.versipelPool = new pg.Pool({
      connectionString: url,
      max: dbLimits.connections,
      connectionTimeoutMillis: dbLimits.connect,
      statement_timeout: dbLimits.statement,
      idle_in_transaction_session_timeout: dbLimits.idleInTransaction,
      application_name: 'versipel',
    });
    // An idle connection lost with its server must not take the process down: the next query opens another.
    shared.versipelPool.on('error', () => undefined);
  }
  return shared.versipelPool;
}

const onPool: Query = {
  query: (text, values) =>
    pool()
      .query(text as string, values)
      .catch(rethrow) as never,
};
function rethrow(error: unknown): never {
  throw said(error);
}

/**
 * Where to ask: the connection of the transaction that is under way, else one of the pool. Nothing inside a transaction ever takes a
 * second connection: sixty that each hold one and wait for another would wait for each other for ever.
 */
export function db(): Query {
  const here = within.getStore();
  return here?.open ? here.q : onPool;
}

/** One statement on a connection that nothing else uses. @throws Unavailable */
export async function pulse(): Promise<void> {
  shared.versipelPulse ??= new pg.Pool({
    connectionString: process.env.DATABASE_URL,
    max: 1,
    connectionTimeoutMillis: dbLimits.connect,
    statement_timeout: dbLimits.connect,
    application_name: 'versipel',
  }).on('error', () => undefined);
  await shared.versipelPulse.query('select 1').catch(rethrow);
}

/** Whether a transaction is under way here. */
export const inTransaction = (): boolean => within.getStore()?.open === true;

export async function closeDb(): Promise<void> {
  await Promise.all([shared.versipelPool?.end(), shared.versipelPulse?.end()]);
  shared.versipelPool = undefined;
  shared.versipelPulse = undefined;
}

/** Connections in use and requests that wait for one: for the log and for tests. */
export const dbState = () => ({
  open: shared.versipelPool?.totalCount ?? 0,
  idle: shared.versipelPool?.idleCount ?? 0,
  waiting: shared.versipelPool?.waitingCount ?? 0,
});

/** One statement after the other on a connection, in the order asked: the driver takes no second one while one runs. */
function inTurn(client: pg.PoolClient): Query {
  let last: Promise<unknown> = Promise.resolve();
  return {
    query: (text, values) => {
      const answer = last.then(() => client.query(text as string, values)).catch(rethrow);
      last = answer.catch(() => undefined);
      return answer as never;
    },
  };
}

/**
 * Runs `work` in one transaction; any error rolls all of it back. Inside another one it is a part of that: what it did alone is rolled
 * back where it fails, and all of it where the other one does. A transaction that lost against another is run again from its start.
 *
 * @param turn lets the transaction itself through, from its connection to its commit; what follows from it is not held up
 * @throws Unavailable where the connection was lost: nothing was changed, or, when that was at the very commit, all of it
 */
export async function transaction<T>(
  work: (q: Query) => Promise<T>,
  turn: (whole: () => Promise<T>) => Promise<T> = (run) => run(),
): Promise<T> {
  const outer = within.getStore();
  if (outer?.open) return savepoint(outer, work);
  for (let attempt = 1; ; attempt++) {
    const here: Within = { q: onPool, open: true, turn: Promise.resolve(), depth: 0, after: [] };
    let result: T;
    try {
      result = await turn(() => whole(here, work));
    } catch (error) {
      if (attempt < 3 && lostToAnother(error)) continue;
      throw error;
    }
    // What follows from it is no part of it: it is safe already.
    for (const after of here.after)
      await within.exit(async () => after()).catch((error: Error) => console.error(`after a change: ${error.message}`));
    return result;
  }
}

/** A connection of the pool that is listened to from the very first: its end may lie in the packet that its beginning came in. */
const connection = (lost: (error: Error) => void): Promise<pg.PoolClient> =>
  new Promise((ready, failed) =>
    pool().connect((error, client) => {
      if (!client) return failed(error ?? new Error('no connection'));
      client.on('error', lost);
      ready(client);
    }),
  );

async function whole<T>(here: Within, work: (q: Query) => Promise<T>): Promise<T> {
  let broken: Error | undefined;
  // A connection in use is the pool's no longer: without a listener its loss would end the process.
  const lost = (error: Error) => (broken = error);
  const client = await connection(lost).catch(rethrow);
  here.q = inTurn(client);
  try {
    await here.q.query('begin');
    const result = await within.run(here, () => work(here.q));
    here.open = false;
    await here.q.query('commit');
    return result;
  } catch (error) {
    here.open = false;
    if (error instanceof Unavailable) broken ??= error;
    await client.query('rollback').catch((e: Error) => (broken ??= e));
    throw error;
  } finally {
    here.open = false;
    client.off('error', lost);
    client.release(broken);
  }
}

async function savepoint<T>(outer: Within, work: (q: Query) => Promise<T>): Promise<T> {
  const run = outer.turn.then(async () => {
    const here: Within = {
      q: outer.q,
      open: true,
      turn: Promise.resolve(),
      depth: outer.depth + 1,
      after: outer.after,
    };
    const waiting = outer.after.length;
    const name = `part_${here.depth}`;
    await outer.q.query(`savepoint ${name}`);
    try {
      const result = await within.run(here, () => work(here.q));
      here.open = false;
      await outer.q.query(`release savepoint ${name}`);
      return result;
    } catch (error) {
      here.open = false;
      outer.after.length = waiting;
      await outer.q.query(`rollback to savepoint ${name}`);
      throw error;
    }
  });
  outer.turn = run.catch(() => undefined);
  return run;
}

/**
 * What follows from a change and is no part of it: run once the transaction that is under way has been committed, or at once where there
 * is none. Whoever asked waits for it; its failure undoes nothing.
 */
export async function afterCommit(follow: () => unknown): Promise<void> {
  const here = within.getStore();
  if (here?.open) here.after.push(follow);
  else await follow();
}

/** Work in the background that may take longer than a page: a limit of its own, for this transaction alone. */
export async function patiently(q: Query, seconds: number): Promise<void> {
  await q.query(`select set_config('statement_timeout', $1, true)`, [`${seconds}s`]);
}

/** The first row, or undefined. */
export async function one<R extends pg.QueryResultRow>(
  q: Query,
  text: string,
  values: unknown[] = [],
): Promise<R | undefined> {
  return (await q.query<R>(prepared(text, values))).rows[0];
}

export async function many<R extends pg.QueryResultRow>(q: Query, text: string, values: unknown[] = []): Promise<R[]> {
  return (await q.query<R>(prepared(text, values))).rows;
}
