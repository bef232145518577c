import type { HandHabits } from '../press/index.ts';
import { shapes } from '../place/index.ts';
import { unloadTip, type Behaviour, type Blank, type Moment, type Tip } from '../vinyls/index.ts';
import type { JobBlank } from './plan.ts';
import type { StepKind } from './steps.ts';

/** Never more lines than this beside what a step says anyhow. */
export const MOST_TIPS = 2;

/** A step as far as it decides what the hands want to be told. */
export type TipStep = {
  kind: StepKind;
  /** What its press, or what is laid by hand, does: `before`, `layer`, `backing off`, `lay`. */
  does?: string | undefined;
  /** Whether it is the first at which the blank is in the hands. */
  first?: boolean;
  /** Whether its films were pressed before: what is to be known was said then. */
  again?: boolean;
  /** Whether the press was opened again: from then on it is about the peel. */
  opened?: boolean;
};

/** Which moments a step is. */
function momentsOf({ kind, does, first, again, opened }: TipStep): Moment[] {
  const blank: Moment[] = first ? ['blank'] : [];
  switch (kind) {
    case 'trim':
    case 'mat':
    case 'cut':
    case 'lift':
    case 'weed':
      return [kind];
    case 'press':
      if (does === 'before') return [...blank, 'bare'];
      if (does === 'layer' && !again) return opened ? ['peel'] : [...blank, 'press'];
      return opened ? [] : blank;
    case 'apply':
      return does === 'lay' ? [...blank, 'lay'] : does === 'backing off' ? ['backing'] : blank;
    case 'wash':
      return [];
  }
}

/**
 * What is pressed and laid of a piece, in order, as `tipsAt` is asked of it. A backing comes off beside the press: the blank is in the hands after that.
 * @param steps what each does, with the films it is about
 */
export function tipSteps(
  steps: readonly { kind: 'press' | 'apply'; does: string; films: readonly string[] }[],
): TipStep[] {
  const first = steps.findIndex((s) => s.does !== 'backing off');
  return steps.map(({ kind, does, films }, i) => ({
    kind,
    does,
    first: i === first,
    again: steps.slice(0, i).some((s) => s.does === 'layer' && s.films.some((f) => films.includes(f))),
  }));
}

type TipFilm = Pick<Behaviour, 'tips' | 'mat' | 'face'>;

/**
 * The lines that the hands need at a step, those of the blank first: at most two.
 * @param films the films that the step is about; none where it is about the blank alone
 */
export function tipsAt(
  step: TipStep,
  films: readonly TipFilm[],
  blank: Pick<Blank, 'tips'>,
  shape: JobBlank['shape'],
  hands: HandHabits = {},
): Tip[] {
  const moments = momentsOf(step);
  const fits = (t: Tip) =>
    moments.includes(t.at) &&
    (!t.faces || films.some((f) => t.faces!.includes(f.face))) &&
    !films.some((f) => t.notFaces?.includes(f.face));
  const found = new Map<string, Tip>();
  for (const t of [
    ...blank.tips,
    // What is weeded on its mat is unloaded later; what has none, never.
    ...(hands.weeding !== 'on-mat' && films.some((f) => f.mat !== 'none') ? [unloadTip] : []),
    ...films.flatMap((f) => f.tips),
    ...shapes[shape].tips,
  ])
    if (fits(t) && !found.has(t.key)) found.set(t.key, t);
  return [...found.values()].slice(0, MOST_TIPS);
}
