import type { HandTopic, PressWay } from '../vinyls/index.ts';

/** What hands do at a vinyl whatever its figures: topics and ways as `handSchools` lists them, and how it is peeled. */
export type HandHabits = Partial<Record<HandTopic | 'peel', string>>;

const afters: Readonly<Record<string, number>> = { none: 0, short: 15, long: 30 };

/**
 * A way to press with what hands do by habit: each habit changes its one field, and is said in a sentence. A field whose source states it otherwise
 * is changed too: the hands are one's own.
 */
export function withHabits(
  way: PressWay | undefined,
  habits: HandHabits | undefined,
): { way: PressWay | undefined; says: string[] } {
  if (!way || !habits) return { way, says: [] };
  const says: string[] = [];
  const changed: PressWay = { ...way };
  const { cover, margin, after, peel } = habits;
  if (peel && peel !== way.peel) {
    changed.peel = peel as PressWay['peel'];
    // The wait that goes with another peel is another wait.
    delete changed.wait;
    says.push(`You peel it ${peel}${way.peel === 'by the leaflet' ? '' : `; by the source it is peeled ${way.peel}`}.`);
  }
  if (cover === 'covered' && way.cover === 'its own carrier') {
    changed.cover = 'its own carrier, and baking paper over all';
    says.push('You always cover it.');
  }
  const s = after === undefined ? undefined : afters[after];
  if (s !== undefined && s !== (way.after ?? 0) && !way.next) {
    changed.after = s;
    says.push(s === 0 ? 'You press nothing after the peel.' : `You press it ${s} s more after the peel, covered.`);
  }
  if ((margin === 'kept' || margin === 'trimmed') && margin !== way.margin) {
    changed.margin = margin;
    says.push(margin === 'kept' ? 'You leave the carrier wide.' : 'You trim the carrier close.');
  }
  return { way: changed, says };
}
