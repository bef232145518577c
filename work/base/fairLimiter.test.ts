import { describe, expect, test } from 'vitest';
import { Busy } from './errors.ts';
import { FairLimiter } from './fairLimiter.ts';

/** Work that ends when it is told to. */
function held() {
  const running = new Set<string>();
  const ends = new Map<string, () => void>();
  const work = (name: string) => () =>
    new Promise<string>((done) => {
      running.add(name);
      ends.set(name, () => {
        running.delete(name);
        done(name);
      });
    });
  return { running, work, end: (name: string) => ends.get(name)!() };
}
const soon = () => new Promise((done) => setTimeout(done, 5));

describe('turns', () => {
  test('one asker has a share; the next in line is the one who has room', async () => {
    const turns = new FairLimiter({ together: 2, each: 1, waiting: 10, waitingEach: 5, seconds: 10 });
    const { running, work, end } = held();
    const all = ['a1', 'a2', 'a3', 'b1'].map((n) => turns.take({ name: n[0]! }, work(n)));
    await soon();
    expect([...running]).toEqual(['a1', 'b1']);
    const c = turns.take({ name: 'c' }, work('c1'));
    end('b1');
    await soon();
    // a waits longer, but has its share.
    expect([...running]).toEqual(['a1', 'c1']);
    end('a1');
    await soon();
    expect([...running]).toEqual(['c1', 'a2']);
    end('c1');
    end('a2');
    await soon();
    end('a3');
    expect(await Promise.all([...all, c])).toEqual(['a1', 'a2', 'a3', 'b1', 'c1']);
  });
  test('a full queue, a full share of it, and a turn that does not come are told, as busy', async () => {
    const turns = new FairLimiter({ together: 1, each: 1, waiting: 2, waitingEach: 1, seconds: 0.05 });
    const { work, end } = held();
    const first = turns.take({ name: 'a' }, work('first'));
    const late = turns.take({ name: 'a' }, work('late'));
    await expect(turns.take({ name: 'a' }, work('x'))).rejects.toBeInstanceOf(Busy);
    const other = turns.take({ name: 'b' }, work('b'));
    await expect(turns.take({ name: 'c' }, work('x'))).rejects.toBeInstanceOf(Busy);
    await expect(late).rejects.toBeInstanceOf(Busy);
    await expect(other).rejects.toBeInstanceOf(Busy);
    end('first');
    expect(await first).toBe('first');
    const next = turns.take({ name: 'd' }, work('next'));
    await soon();
    end('next');
    expect(await next).toBe('next');
  });
  test('a kind has fewer turns than all; next is whoever has used least lately', async () => {
    const used: Record<string, number> = { a: 9, b: 1, c: 0 };
    const turns = new FairLimiter(
      { together: 2, each: 1, kinds: { drawing: 1 }, waiting: 10, waitingEach: 5, seconds: 10 },
      (name) => used[name] ?? 0,
    );
    const { running, work, end } = held();
    const first = turns.take({ name: 'x', kind: 'drawing' }, work('x'));
    const second = turns.take({ name: 'y', kind: 'drawing' }, work('y'));
    await soon();
    // The other turn is for what is no drawing.
    expect([...running]).toEqual(['x']);
    const all = ['z', 'a', 'b', 'c'].map((name) => turns.take({ name }, work(name)));
    await soon();
    expect([...running]).toEqual(['x', 'z']);
    for (const next of ['c', 'b', 'a']) {
      end([...running].at(-1)!);
      await soon();
      expect([...running]).toEqual(['x', next]);
    }
    end('x');
    await soon();
    end('y');
    end('a');
    expect(await Promise.all([first, second, ...all])).toEqual(['x', 'y', 'z', 'a', 'b', 'c']);
  });
  test('who leaves waits no longer', async () => {
    const turns = new FairLimiter({ together: 1, each: 1, waiting: 5, waitingEach: 5, seconds: 10 });
    const { work, end } = held();
    const first = turns.take({ name: 'a' }, work('a'));
    const gone = new AbortController();
    const waiting = turns.take({ name: 'b', gone: gone.signal }, work('b'));
    gone.abort();
    await expect(waiting).rejects.toBeInstanceOf(Busy);
    await expect(turns.take({ name: 'c', gone: gone.signal }, work('c'))).rejects.toBeInstanceOf(Busy);
    end('a');
    expect(await first).toBe('a');
  });
  test('work that fails gives its turn back; work in the background waits as long as it takes', async () => {
    const turns = new FairLimiter({ together: 1, each: 1, waiting: 1, waitingEach: 1, seconds: 0.05 });
    await expect(turns.take({ name: 'a' }, () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    const { work, end } = held();
    const first = turns.take({ name: 'a' }, work('first'));
    const patient = turns.wait({ name: 'background' }, work('patient'));
    await new Promise((done) => setTimeout(done, 120));
    end('first');
    await soon();
    end('patient');
    expect(await Promise.all([first, patient])).toEqual(['first', 'patient']);
  });
});
