import type { PressStep } from '../press/index.ts';
import type { ShownPress } from './events.ts';

/** A press as a sheet shows it. */
type Shown = Pick<PressStep, 'does' | 'purpose' | 'heat' | 'seconds' | 'pressure' | 'peel' | 'ask'> & {
  what: string;
  kind: 'press' | 'apply';
  layers: readonly string[];
  by: string | undefined;
};

/** The presses of a piece as an outcome carries them: what hands were shown is what they did, whatever is planned by then. */
export const shownPresses = (presses: readonly Shown[]): ShownPress[] =>
  presses
    .filter((p) => p.purpose !== 'hand')
    .map((p) => ({
      what: p.what,
      kind: p.kind,
      does: p.does,
      purpose: p.purpose,
      layers: [...p.layers],
      ...(p.heat === undefined ? {} : { heat: p.heat }),
      ...(p.seconds === undefined ? {} : { seconds: p.seconds }),
      ...(p.pressure === undefined ? {} : { pressure: p.pressure }),
      ...(p.peel === undefined ? {} : { peel: p.peel }),
      ...(p.ask === undefined ? {} : { ask: true }),
      ...(p.by === undefined ? {} : { by: p.by }),
    }));
