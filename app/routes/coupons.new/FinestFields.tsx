import type { Finest } from '#core/coupon/index.ts';

/** What the figure tests in place of the usual, carried along with the plan. */
export function FinestFields({ finest }: { finest: Finest | undefined }) {
  if (!finest) return null;
  return (
    <>
      <input type="hidden" name="bar" value={finest.bar} />
      <input type="hidden" name="gap" value={finest.gap} />
    </>
  );
}
