import type {
  HeatSource,
  PlanFilm,
  PressAnswer,
  PressPlan,
  PressStep,
  RankedSource,
  SaidWay,
} from '#core/press/index.ts';
import type { Vinyl } from '#work/vinyls/vinyls.ts';

/** A step at the press: what it is called among the steps of a piece, and the layers it presses on. */
export type PressStepView = Omit<PressStep, 'films'> & {
  what: string;
  layers: string[];
  /** What is set on the press that is used: a word, or what its display is to show. */
  toSet: string | undefined;
  /** What its pressure is on that press. */
  hand: string | undefined;
  /** By which source its figures are; undefined where they are of no film. */
  by: SaidWay['source'] | undefined;
  /** Where its heat is more than the surface takes. */
  over: string | undefined;
  /** In how many parts it is pressed, where it is larger than the plate; each for its time. */
  parts: number;
  kind: 'press' | 'apply';
  /** What hands do before the press that follows. */
  byHand: boolean;
  /** What is taken off after it: the carrier of the film, or a cover over film that has none. */
  lifts: 'carrier' | 'cover';
  /** Of what is applied by hand: what to do, and how long it rests then, s. */
  says: string[];
  rest: number | undefined;
};
export type PressPlanView = Pick<
  PressPlan,
  'verdict' | 'school' | 'says' | 'because' | 'helps' | 'alternatives' | 'cautions' | 'offers' | 'taken' | 'onFabric'
> & {
  /** Figures that nobody says, film by film: asked for, and the plan holds without them. */
  lacks: { film: string; layer: string; vinyl: string; what: ('heat' | 'seconds')[] }[];
  /** By which source each film is pressed, the lowest first, and what one's own hands change in it. */
  said: {
    layer: string;
    name: string;
    source: SaidWay['source'] | undefined;
    by: string | undefined;
    habits: string[];
  }[];
  /** What it is pressed with, and why; undefined where the person has named no press. */
  source:
    | {
        id: string;
        name: string;
        because: string;
        kind: HeatSource['kind'];
        words: boolean;
        shows: 'C' | 'F';
        off: number;
        /** Whether nobody has measured or found what the word that is set has on it. */
        open: boolean;
      }
    | undefined;
  sources: (RankedSource & { name: string })[];
};

/** A film of a plan with its type. */
export type PlannedFilm = PlanFilm & {
  type: Vinyl['type'];
  carry: Vinyl['behaviour']['carry'];
  answer: PressAnswer;
  /** What hands change in its figures, a sentence each. */
  habits: string[];
};
