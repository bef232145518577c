import { createContext, useCallback, useContext, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { v4 as uuidv4 } from 'uuid';
import type { Envelope } from '#core/events/index.ts';
import type { BenchEvent } from '#core/grades/index.ts';
import type { JobEvent } from '#core/job/index.ts';
import { deviceClock } from './deviceClock.ts';

/**
 * The outbox: every grade is written here first, under a key of its own, and leaves only when the server has said that it is
 * stored (or will never be). One key an event, so that two tabs never overwrite each other. Events name their person: after a
 * sign-out they wait for that person.
 */
const PREFIX = 'versipel.outbox.';
const REFUSED = 'versipel.refused.';
const DEVICE = 'versipel.device';
const BATCH = 100;
const FIRST_WAIT = 1_000;
/** Events that wait for something that has not arrived are sent again after this time, so that they hold nothing up. */
const LATER = 60_000;
const LONGEST_WAIT = 30_000;

type State = {
  /** Events not yet acknowledged, oldest first. */
  waiting: HandEvent[];
  /** Events the server will never take, with its reason. */
  refused: { event: HandEvent; why: string }[];
  online: boolean;
  /** The server is there but knows nobody here: the events wait until their person signs in. */
  signedOut: boolean;
  /** False where the browser lets nothing be stored: then the page says so. */
  keeps: boolean;
};
/** What hands did, by what their events name: a cell of a cut, or a job. */
export type EventsAbout = { cell: BenchEvent; job: JobEvent };
type HandEvent = EventsAbout[keyof EventsAbout];
/** An event but for what every event has: its id, device and clock. */
export type Unstamped<E> = E extends unknown ? Omit<E, keyof Envelope> : never;
type Add = (event: Unstamped<HandEvent>) => HandEvent;
type Outbox = State & { add: Add; forgetRefused: () => void; deviceId: () => string };

const empty: State = { waiting: [], refused: [], online: true, signedOut: false, keeps: true };
const OutboxContext = createContext<Outbox | undefined>(undefined);

export function useOutbox(): Outbox {
  const outbox = useContext(OutboxContext);
  if (!outbox) throw new Error('useOutbox outside OutboxProvider');
  return outbox;
}

function stored<T>(prefix: string): T[] {
  const list: [string, T][] = [];
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i)!;
    if (!key.startsWith(prefix)) continue;
    try {
      list.push([key, JSON.parse(localStorage.getItem(key)!) as T]);
    } catch {
      // A half-written entry of a browser that died is no event.
    }
  }
  // Ids are UUIDv7: their order is the order in which they were made.
  return list.sort(([a], [b]) => (a < b ? -1 : 1)).map(([, value]) => value);
}

function deviceId(): string {
  try {
    const known = localStorage.getItem(DEVICE);
    if (known) return known;
    const made = uuidv4();
    localStorage.setItem(DEVICE, made);
    return made;
  } catch {
    return uuidv4();
  }
}

/** What lies in the outbox of a person on this device. */
type Kept = ReturnType<typeof useKept>;

type Props = { personId: string | undefined; formerly?: readonly string[] | undefined; children: ReactNode };

/** Keeps events of a person on this device: in storage, and in memory where there is none. */
function useKept(personId: string | undefined, formerly: readonly string[] | undefined) {
  const [state, setState] = useState<State>(empty);
  const memory = useRef<HandEvent[]>([]);

  const mine = `${PREFIX}${personId}.`;
  // What a person left unsent here as a guest, before they signed in, is theirs too.
  const former = (formerly ?? []).join(' ');
  const look = useCallback((): HandEvent[] => {
    try {
      const kept = [
        mine,
        ...former
          .split(' ')
          .filter(Boolean)
          .map((id) => `${PREFIX}${id}.`),
      ].flatMap((prefix) => stored<HandEvent>(prefix));
      return [...kept, ...memory.current.filter((m) => !kept.some((k) => k.id === m.id))];
    } catch {
      return memory.current;
    }
  }, [former, mine]);

  const refresh = useCallback(
    (change: Partial<State> = {}) => {
      let refused: State['refused'] = [];
      try {
        refused = stored(`${REFUSED}${personId}.`);
      } catch {
        // Without storage there is nothing kept to show.
      }
      setState((s) => ({ ...s, ...change, waiting: look(), refused }));
    },
    [look, personId],
  );

  /** Takes an event out of the outbox. */
  const forget = useCallback(
    (id: string) => {
      memory.current = memory.current.filter((m) => m.id !== id);
      try {
        for (const self of [personId, ...former.split(' ')]) localStorage.removeItem(`${PREFIX}${self}.${id}`);
      } catch {
        // No storage: memory was the only copy.
      }
    },
    [former, personId],
  );
  /** Keeps an event that will never be taken, with the reason, where the person sees it. */
  const refuse = useCallback(
    (event: HandEvent, why: string) => {
      try {
        localStorage.setItem(`${REFUSED}${personId}.${event.id}`, JSON.stringify({ event, why }));
      } catch {
        // No storage: then there is nowhere to show it.
      }
      forget(event.id);
    },
    [forget, personId],
  );

  const forgetRefused = useCallback(() => {
    try {
      for (const { event } of stored<{ event: HandEvent }>(`${REFUSED}${personId}.`))
        localStorage.removeItem(`${REFUSED}${personId}.${event.id}`);
    } catch {
      // Nothing was kept.
    }
    refresh();
  }, [personId, refresh]);

  /** Writes an event down before anything else is done with it. */
  const keep = useCallback(
    (event: HandEvent) => {
      memory.current = [...memory.current, event];
      try {
        localStorage.setItem(`${mine}${event.id}`, JSON.stringify(event));
      } catch {
        setState((s) => ({ ...s, keeps: false }));
      }
      refresh();
    },
    [mine, refresh],
  );
  /** Somebody is here: looks whether this browser keeps anything, and at what it kept. */
  const begin = useCallback(() => {
    memory.current = [];
    let keeps = true;
    try {
      localStorage.setItem(`${PREFIX}try`, '1');
      localStorage.removeItem(`${PREFIX}try`);
    } catch {
      keeps = false;
    }
    refresh({ keeps });
  }, [refresh]);
  return { state, look, refresh, forget, refuse, keep, begin, forgetRefused };
}

/** Delivers what is kept, a batch at a time, and again until the server has said what became of it. Answers how to send at once. */
function useDelivery(personId: string | undefined, { look, refresh, forget, refuse, begin }: Kept): () => void {
  const sending = useRef(false);
  /** Until when an event waits for what it speaks of; and how many events go in one delivery. */
  const later = useRef(new Map<string, number>());
  const size = useRef(BATCH);
  const wait = useRef(FIRST_WAIT);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);

  const send = useCallback(async () => {
    if (!personId || sending.current) return;
    clearTimeout(timer.current);
    const now = Date.now();
    const due = look().filter((e) => (later.current.get(e.id) ?? 0) <= now);
    const batch = due.slice(0, size.current);
    if (batch.length === 0) {
      if (later.current.size > 0) timer.current = setTimeout(() => void send(), LATER);
      return refresh({ online: true });
    }
    sending.current = true;
    let again = true;
    try {
      const answer = await fetch('/api/events', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ person: personId, events: batch }),
        signal: AbortSignal.timeout(20_000),
      });
      if (answer.status === 401 || answer.status === 409) {
        refresh({ online: true, signedOut: true });
        wait.current = LONGEST_WAIT;
        return;
      }
      if (answer.status === 413 && batch.length > 1) {
        // More than fits at once: the same in smaller deliveries.
        size.current = Math.max(1, Math.floor(batch.length / 2));
        wait.current = 0;
        return;
      }
      if (answer.status === 413) {
        // One event alone is too large: no outbox of ours made it, and the others need not wait for it.
        refuse(batch[0]!, 'It is too large to be taken.');
        wait.current = 0;
        return;
      }
      if (!answer.ok) throw new Error(`answered ${answer.status}`);
      size.current = BATCH;
      const { results } = (await answer.json()) as { results: { id: string; outcome: string; why?: string }[] };
      for (const { id, outcome, why } of results) {
        const event = batch.find((e) => e.id === id);
        if (!event) continue;
        if (outcome === 'later') {
          later.current.set(id, Date.now() + LATER);
          continue;
        }
        later.current.delete(id);
        if (outcome === 'refused') refuse(event, why ?? '');
        else forget(id);
      }
      wait.current = FIRST_WAIT;
      again = look().some((e) => (later.current.get(e.id) ?? 0) <= Date.now());
      if (!again && later.current.size > 0) timer.current = setTimeout(() => void send(), LATER);
      refresh({ online: true, signedOut: false });
    } catch {
      refresh({ online: false });
      wait.current = Math.min(LONGEST_WAIT, wait.current * 2);
    } finally {
      sending.current = false;
      if (again) timer.current = setTimeout(() => void send(), wait.current);
    }
  }, [forget, look, personId, refresh, refuse]);

  const now = useCallback(() => {
    wait.current = FIRST_WAIT;
    void send();
  }, [send]);

  useEffect(() => {
    begin();
    void send();
    const lost = () => refresh({ online: false });
    window.addEventListener('online', now);
    window.addEventListener('offline', lost);
    return () => {
      window.removeEventListener('online', now);
      window.removeEventListener('offline', lost);
      clearTimeout(timer.current);
    };
  }, [begin, now, refresh, send]);
  return now;
}

/** One clock for the page: what any part of it says follows what was said before. */
const stamp = deviceClock();

export function OutboxProvider({ personId, formerly, children }: Props) {
  const kept = useKept(personId, formerly);
  const sendNow = useDelivery(personId, kept);
  const { state, keep, forgetRefused } = kept;
  const device = useRef<string>(undefined);
  const add = useCallback<Add>(
    (partial) => {
      device.current ??= deviceId();
      const event = { ...partial, ...stamp(), device: device.current } as HandEvent;
      keep(event);
      sendNow();
      return event;
    },
    [keep, sendNow],
  );

  const myDevice = useCallback(() => (device.current ??= deviceId()), []);
  const value = useMemo(
    () => ({ ...state, add, forgetRefused, deviceId: myDevice }),
    [state, add, forgetRefused, myDevice],
  );
  return <OutboxContext.Provider value={value}>{children}</OutboxContext.Provider>;
}
