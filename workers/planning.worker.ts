import { planCoupon, type PlanInput } from '#core/planner/index.ts';

// A thin door: looks one coupon ahead off the main thread.
self.onmessage = (message: MessageEvent<PlanInput>) => {
  self.postMessage(planCoupon(message.data).expected);
};
