import { fit, type FitInput } from '#core/window/index.ts';

// A thin door: reads a coupon off the main thread, so that tapping never waits for it.
self.onmessage = (message: MessageEvent<{ job: number; input: FitInput }>) => {
  const { job, input } = message.data;
  self.postMessage({ job, result: fit(input) });
};
