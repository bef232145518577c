import { words } from '../../messages/index.ts';
import { heatInBoth } from '#core/units/index.ts';

/** The press a plan is pressed with, as far as it says what is set on it. */
export type SetOn = { words: boolean; off: number } | undefined;

/**
 * What hands set for a press, and what that is: a word and about what it has, what a display is to show and what it really has then, or the
 * heat itself in both scales. Undefined where the leaflet says the heat.
 * @param scale what the display reads
 */
export function pressSetting(
  { heat, toSet }: { heat: number | undefined; toSet: string | undefined },
  on: SetOn,
  scale: 'C' | 'F',
): { set: string; really: string; off: boolean } | undefined {
  if (heat === undefined) return undefined;
  const t = words.pressPlan;
  const [a, b] = heatInBoth(heat, scale);
  if (on?.words && toSet !== undefined) return { set: t.word(toSet), really: t.about(a), off: false };
  const [shown] = heatInBoth(heat - (on?.off ?? 0), scale);
  return shown === a ? { set: a, really: b, off: false } : { set: shown, really: t.really(a), off: true };
}
