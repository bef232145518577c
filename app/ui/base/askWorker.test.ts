import { describe, expect, test } from 'vitest';
import { askWorker, Refused, Stopped, TooLong } from './askWorker.ts';

type Said = { share: number } | { done: string } | { wrong: string };

/** A worker as far as asking goes: what it was asked, whether it was ended, and a way to let it speak. */
function standIn() {
  const worker = {
    onmessage: undefined as ((event: { data: Said }) => void) | undefined,
    onerror: undefined as ((event: { message: string }) => void) | undefined,
    asked: [] as unknown[],
    ended: 0,
    postMessage: (asked: unknown) => void worker.asked.push(asked),
    terminate: () => void worker.ended++,
  };
  return { worker, say: (data: Said) => worker.onmessage!({ data }) };
}
const ask = (worker: unknown, shares: number[] = [], most?: number) =>
  askWorker<Said, string>(
    worker as Worker,
    'what',
    (said) => {
      if ('share' in said) return void shares.push(said.share);
      return said;
    },
    most,
  );

describe('asking a worker', () => {
  test('it is asked once, heard on its way, and ended with its answer', async () => {
    const { worker, say } = standIn();
    const shares: number[] = [];
    const { answer } = ask(worker, shares);
    say({ share: 0.5 });
    say({ done: 'that' });
    expect(await answer).toBe('that');
    expect([worker.asked, shares, worker.ended]).toEqual([['what'], [0.5], 1]);
  });
  test('what is wrong is said in its own words; a worker that fails is an error; both end it', async () => {
    const [one, other] = [standIn(), standIn()];
    const [refused, failed] = [ask(one.worker), ask(other.worker)];
    one.say({ wrong: 'no drawing' });
    other.worker.onerror!({ message: 'out of memory' });
    await expect(refused.answer).rejects.toThrow(new Refused('no drawing'));
    await expect(failed.answer).rejects.toThrow('out of memory');
    expect([one.worker.ended, other.worker.ended]).toEqual([1, 1]);
  });
  test('stopped, or too long at it, it is ended; what it says afterwards is not heard', async () => {
    const [one, other] = [standIn(), standIn()];
    const stopped = ask(one.worker);
    stopped.stop();
    one.say({ done: 'late' });
    await expect(stopped.answer).rejects.toBeInstanceOf(Stopped);
    await expect(ask(other.worker, [], 5).answer).rejects.toBeInstanceOf(TooLong);
    expect([one.worker.ended, other.worker.ended]).toEqual([1, 1]);
  });
});
