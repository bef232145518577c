import { planCoupon, type PlanInput } from '#core/planner/index.ts';

// A thin door: looks one coupon ahead off the main thread.
self.onmessage = (message: MessageEvent<{ job: number; input: PlanInput }>) => {
  const { job, input } = message.data;
  self.postMessage({ job, expected: planCoupon(input).expected });
};
