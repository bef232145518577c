import {
  compareWays,
  planCoupon,
  whyOneMore,
  type ComparedWay,
  type PlanInput,
  type WhyOneMore,
} from '#core/planner/index.ts';

/** What one more coupon is expected to bring, and the ways of cutting against each other. */
export type Ahead = { gain: number; why: WhyOneMore | undefined; ways: ComparedWay[] };

// A thin door: looks one coupon ahead off the main thread.
self.onmessage = (message: MessageEvent<PlanInput>) => {
  const { now, after } = planCoupon(message.data).expected!;
  const ahead: Ahead = {
    gain: after - now,
    why: whyOneMore({ now, after }, message.data.cells, message.data.wanted, message.data.around !== undefined),
    ways: compareWays({ ...message.data, also: ['passes', 'speed'] }),
  };
  self.postMessage(ahead);
};
