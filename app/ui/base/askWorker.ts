/** What a worker found wrong with what it was given, in one line. */
export class Refused extends Error {}
/** Somebody stopped it. */
export class Stopped extends Error {}
/** It took longer than it may. */
export class TooLong extends Error {}

/**
 * Asks a worker one thing; it is ended with the answer, however that comes.
 * @param hear what the worker says as it was meant: its answer, what is wrong, or nothing yet
 * @param most how long it may take, ms
 */
export function askWorker<Said, Done>(
  worker: Worker,
  asked: unknown,
  hear: (said: Said) => { done: Done } | { wrong: string } | undefined,
  most?: number,
): { answer: Promise<Done>; stop: () => void } {
  let stop = () => undefined as void;
  let late: ReturnType<typeof setTimeout> | undefined;
  const answer = new Promise<Done>((done, failed) => {
    stop = () => failed(new Stopped());
    if (most !== undefined) late = setTimeout(() => failed(new TooLong()), most);
    worker.onmessage = ({ data }: MessageEvent<Said>) => {
      const heard = hear(data);
      if (!heard) return;
      if ('wrong' in heard) failed(new Refused(heard.wrong));
      else done(heard.done);
    };
    worker.onerror = (event) => failed(new Error(event.message));
    worker.postMessage(asked);
  }).finally(() => {
    clearTimeout(late);
    worker.terminate();
  });
  return { answer, stop };
}
