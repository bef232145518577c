import { isOffPlan, type pressedSeconds, type ShownPress } from '#core/job/index.ts';
import type { Pressed, PressOutcome } from '#core/press/index.ts';

/** How a film was pressed: the press that holds it, and where it was pressed whole by its own presses all of them. */
export type WayPressed = { way: PressOutcome['way']; presses?: Pressed[] | undefined };

/**
 * How each film of a piece was pressed, as its presses were shown: what an outcome speaks of. A wash speaks of all, a press of what was pressed. A press
 * that was far off its plan is kept as what it was, and says nothing for what it was meant to be.
 * @param real how long a press truly lasted, s; undefined where nobody timed it, and where two clocks did it counts as planned and says so
 * @param pressed whether a press behind a question was done
 */
export function waysPressed(
  shown: readonly ShownPress[],
  at: 'press' | 'apply' | 'wash',
  real: (press: ShownPress) => ReturnType<typeof pressedSeconds> = () => undefined,
  pressed: (press: ShownPress) => boolean = () => true,
): Map<string, WayPressed> {
  const found = new Map<string, WayPressed>();
  const done = (p: ShownPress): Pressed => {
    const timed = real(p);
    const seconds = timed === 'two clocks' ? undefined : timed;
    const off = isOffPlan(seconds, p.seconds);
    const lasted = off ? Math.max(1, Math.round(seconds!)) : p.seconds;
    return {
      ...(p.heat === undefined ? {} : { heat: p.heat }),
      ...(lasted === undefined ? {} : { seconds: [lasted, lasted] }),
      ...(p.pressure === undefined ? {} : { pressure: p.pressure }),
      peel: p.peel ?? 'by the leaflet',
      ...(off ? { meant: p.seconds } : {}),
      ...(timed === 'two clocks' ? { clocks: 2 } : {}),
    };
  };
  shown.forEach((own, i) => {
    // What sticks is proven by the surface it held on.
    if (at !== 'wash' && own.kind !== at) return;
    if (own.kind === 'apply') return own.layers.forEach((id) => found.set(id, { way: { peel: 'by the leaflet' } }));
    const first = own.does === 'layer' && own.layers.some((id) => !found.has(id));
    if (!first) return;
    const after = shown.slice(i + 1);
    for (const id of own.layers) {
      if (own.purpose === 'tack') {
        // What was only tacked is held by the press of everything that follows it.
        const whole =
          after.find((s) => s.does === 'last') ?? after.find((s) => s.purpose === 'full' || s.purpose === 'raise');
        const way = done(whole ?? own);
        found.set(id, {
          way: {
            ...way,
            ...(own.pressure === undefined ? {} : { pressure: own.pressure }),
            peel: own.peel ?? 'by the leaflet',
          },
        });
        continue;
      }
      const more = after.filter((s) => s.layers.includes(id) && (!s.ask || pressed(s)));
      const presses = [own, ...more].map(done);
      found.set(id, { way: presses[0]!, presses });
    }
  });
  return found;
}
