import type { PressAnswer, SaidWay } from '#core/press/index.ts';
import { saySeconds, whatFollows, type PressWay } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';
import { heatOf, isolate } from '../base/format.ts';
import { heatInBoth, capitalise } from '#core/units/index.ts';

/** A press answer as a line shows it: the figures, whose they are, and what is wrong with them. */
export type LeanPress =
  | (Pick<PressWay, 'heat' | 'upTo' | 'seconds'> & {
      source: SaidWay['source'];
      by: string | undefined;
      /** Presses that follow by the same source. */
      more: number;
      over: string | undefined;
    })
  /** Nobody says one; nothing is pressed. */
  | 'not said'
  | 'none';

export function leanPress({ said, pressed, overSurface }: PressAnswer): LeanPress {
  if (!pressed) return 'none';
  if (!said) return 'not said';
  const { heat, upTo, seconds, next } = said.way;
  return {
    ...(heat === undefined ? {} : { heat }),
    ...(upTo === undefined ? {} : { upTo }),
    ...(seconds ? { seconds } : {}),
    source: said.source,
    by: said.by,
    more: next?.length ?? 0,
    over: overSurface,
  };
}

/** What follows a press, with heats in the order in which a person reads them. */
export const sayFollows = (way: PressWay, unit: 'C' | 'F'): string[] =>
  whatFollows(way, (heat) => {
    const [first, second] = heatInBoth(heat, unit);
    return `${first} (${second})`;
  });

/** Whose figures they are, as a sentence: "As its leaflet says." */
export function sayTrust(said: Pick<SaidWay, 'source' | 'by'>): string {
  const t = words.pressSource;
  if (said.source === 'leaflet' || said.source === 'type') return t.trust[said.source];
  const says = saySource(said);
  return `${capitalise(says)}.`;
}

/** Whose figures they are: "your recipe, proven". */
export function saySource(said: Pick<SaidWay, 'source' | 'by'>): string {
  const t = words.pressSource;
  if (said.source === 'own tried' && said.by === 'squares') return t.squares;
  if (said.source === 'proven by others' || said.source === 'tried by others')
    return t[said.source](said.by ? isolate(said.by) : t.someone);
  return t[said.source];
}

/** The same where there is hardly room: one scale, whose figures in a word; empty where nobody says a press. */
export function pressOnLabel(press: LeanPress, unit: 'C' | 'F'): string {
  if (typeof press === 'string') return '';
  const figures = [heatOf(press, unit)?.[0], press.seconds && saySeconds(press.seconds)].filter(Boolean).join(', ');
  return `${figures} (${words.pressSource.short[press.source]})`;
}

/** A press answer in a line: "325 °F (163 °C), 15 s" and "your recipe, proven"; undefined where nothing is pressed. */
export function sayPress(press: LeanPress, unit: 'C' | 'F'): { figures: string; source: string } | undefined {
  const t = words.pressSource;
  if (press === 'none') return undefined;
  if (press === 'not said') return { figures: t.notSaid, source: t.askLeaflet };
  const heat = heatOf(press, unit);
  return {
    figures: [
      heat ? `${heat[0]} (${heat[1]})` : words.press.noHeat,
      saySeconds(press.seconds),
      press.more > 0 ? t.more(press.more) : '',
    ]
      .filter(Boolean)
      .join(', '),
    source: saySource(press),
  };
}
