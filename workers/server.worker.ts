import { planCoupon, type PlanInput } from '#core/planner/index.ts';
import { fit, type FitInput } from '#core/window/index.ts';

// A thin door for the server's pool of threads: what would hold up its event loop.
export type Asked = { fit: FitInput } | { plan: PlanInput };

export default function compute(asked: Asked) {
  return 'fit' in asked ? fit(asked.fit) : planCoupon(asked.plan);
}
