import { z } from 'zod';
import { normalQuantile } from '../stats/index.ts';
import { fitMixed, type MixedFit } from './mixed.ts';

/** A number stands for the text it is written as. */
const key = z.union([z.string().min(1).max(200), z.number()]);

export const translateInputSchema = z
  .strictObject({
    scale: z
      .enum(['log', 'linear'])
      .describe('log: effects multiply, values must be positive; linear: effects add, values may be negative'),
    terms: z
      .array(
        z
          .string()
          .regex(/^[A-Za-z][A-Za-z0-9_-]{0,39}$/)
          .refine((t) => t !== 'value' && t !== 'se' && !(t in {}), {
            message: 'a term is not called "value", "se" or like something every object has',
          }),
      )
      .min(1)
      .max(8)
      .refine((t) => new Set(t).size === t.length, { message: 'two terms bear the same name' })
      .describe(
        'what values vary with, in any order; nesting is said by compound keys ("marlow/7" for cutter 7 of a model)',
      ),
    observations: z
      .array(
        z
          .object({
            value: z.number(),
            se: z.number().min(0).optional().describe('standard error of the value, in its own unit'),
          })
          .catchall(key),
      )
      .min(2)
      .max(200_000)
      .describe('one key a term, and "value"'),
    predict: z
      .array(z.object({}).catchall(key))
      .max(100_000)
      .default([])
      .describe('one key a term; unknown ones may be new or left out'),
    level: z.number().gt(0).lt(1).default(0.9),
  })
  .superRefine((input, context) => {
    const say = (path: (string | number)[], message: string) => context.addIssue({ code: 'custom', path, message });
    const known = new Set(input.terms);
    for (const [i, o] of input.observations.entries()) {
      if (input.scale === 'log' && !(o.value > 0))
        return say(['observations', i, 'value'], `${o.value} has no logarithm: on the log scale values are positive`);
      for (const term of input.terms) if (o[term] === undefined) return say(['observations', i], `has no "${term}"`);
      const stray = Object.keys(o).find((k) => k !== 'value' && k !== 'se' && !known.has(k));
      if (stray !== undefined) return say(['observations', i], `"${stray.slice(0, 40)}" is not one of the terms`);
    }
    for (const [i, p] of input.predict.entries()) {
      const stray = Object.keys(p).find((k) => !known.has(k));
      if (stray !== undefined) return say(['predict', i], `"${stray.slice(0, 40)}" is not one of the terms`);
    }
  });
export type TranslateInput = z.infer<typeof translateInputSchema>;

/** Input that is well formed but cannot be fitted. The message says why. */
class TranslateError extends Error {}

type Effect = { effect: number; se: number };
type Prediction = {
  /** On the scale of the values. */
  value: number;
  /** Where a further value would lie, and where the mean lies. */
  interval: { low: number; high: number };
  meanInterval: { low: number; high: number };
  /** On the scale of the model (log where the scale is log): the mean and its standard error. */
  mean: number;
  se: number;
  /** Terms whose key was not in the data: predicted as one that could be any. */
  unknown: string[];
};
export type Translation = {
  format: 'versipel-translation/1';
  scale: 'log' | 'linear';
  observations: number;
  /** −2 × restricted log likelihood at its optimum. */
  criterion: number;
  intercept: Effect;
  /** Variance and standard deviation of each term, on the scale of the model. */
  variances: Record<string, { variance: number; sd: number; levels: number }>;
  residual: { variance: number; sd: number };
  /** Conditional means with their standard errors, by term and level. */
  effects: Record<string, Record<string, Effect>>;
  predictions: Prediction[];
  converged: boolean;
  iterations: number;
};

/** A plain object whose keys come from outside: it has no prototype to be reached. */
const table = <T>(): Record<string, T> => Object.create(null) as Record<string, T>;

/** Levels of each term in the order met, and the fit. */
function fitTerms(input: TranslateInput): { fit: MixedFit; levels: Map<string, number>[]; kept: number[] } {
  const n = input.observations.length;
  const log = input.scale === 'log';
  const levels = input.terms.map(() => new Map<string, number>());
  const all = input.terms.map((term, k) => {
    const seen = levels[k]!;
    const index = new Int32Array(n);
    for (let i = 0; i < n; i++) {
      const name = String(input.observations[i]![term]);
      let level = seen.get(name);
      if (level === undefined) seen.set(name, (level = seen.size));
      index[i] = level;
    }
    return { index, levels: seen.size };
  });
  // What everything has in common cannot be told from the intercept: a term of one level varies not at all.
  const kept = [...all.keys()].filter((k) => all[k]!.levels > 1);
  const random = kept.map((k) => all[k]!);
  const y = new Float64Array(n);
  for (let i = 0; i < n; i++) y[i] = log ? Math.log(input.observations[i]!.value) : input.observations[i]!.value;
  const withError = input.observations.some((o) => (o.se ?? 0) > 0);
  const fit = fitMixed({
    y,
    ...(withError
      ? { known: Float64Array.from(input.observations, (o) => ((o.se ?? 0) / (log ? o.value : 1)) ** 2) }
      : {}),
    fixed: [{ index: new Int32Array(n) }],
    fixedLevels: 1,
    random,
  });
  return { fit, levels, kept };
}

/**
 * The crossed and nested mixed model of values that vary with several things at once, by restricted maximum likelihood:
 * value = intercept + one effect a term + residual. A standard error given with a value is variance beside the residual; on the log
 * scale it is divided by the value (delta method).
 *
 * Source: Henderson (1950), Patterson & Thompson (1971). The same model as lmer(value ~ 1 + (1|a) + (1|b) …) of R's lme4; checked
 * against it on published data in tests/published/transfer.test.ts.
 *
 * @throws TranslateError when the values do not vary or the fit does not come to an end
 */
export function translate(input: TranslateInput): Translation {
  const log = input.scale === 'log';
  const first = input.observations[0]!.value;
  if (input.observations.every((o) => o.value === first))
    throw new TranslateError('observations: all values are the same, there is nothing to fit');
  const { fit, levels, kept } = fitTerms(input);
  // Where a term stands in the fit; −1 for one that was left out.
  const termOf = input.terms.map((_, k) => kept.indexOf(k));
  const { at } = fit;
  if (!Number.isFinite(fit.objective)) throw new TranslateError('observations: the fit does not come to an end');
  const residual = at.par.residualVariance;
  const tidy = (v: number) => Number(v.toPrecision(10));
  const back = (v: number) => tidy(log ? Math.exp(v) : v);
  const variances = table<{ variance: number; sd: number; levels: number }>();
  const effects = table<Record<string, Effect>>();
  input.terms.forEach((term, k) => {
    const t = termOf[k]!;
    const sd = t < 0 ? 0 : at.par.sd[t]!;
    variances[term] = { variance: tidy(sd ** 2), sd: tidy(sd), levels: levels[k]!.size };
    const list = table<Effect>();
    for (const [name, level] of levels[k]!)
      list[name] =
        t < 0
          ? { effect: 0, se: 0 }
          : { effect: tidy(at.effects[t]![level]!), se: tidy(sd * Math.sqrt(at.variance(t, level))) };
    effects[term] = list;
  });
  const q = normalQuantile((1 + input.level) / 2);
  const known = new Map<string, Prediction>();
  const predictions = input.predict.map((p): Prediction => {
    const places = input.terms.map((term, k) => (p[term] === undefined ? -1 : (levels[k]!.get(String(p[term])) ?? -1)));
    const id = places.join(' ');
    const before = known.get(id);
    if (before) return before;
    const { mean, variance } = at.predict(
      [[0, 1]],
      places.flatMap((level, k) => (termOf[k]! < 0 ? [] : [[termOf[k]!, level, 1] as const])),
    );
    const se = Math.sqrt(variance);
    const wide = Math.sqrt(variance + residual);
    const answer = {
      value: back(mean),
      interval: { low: back(mean - q * wide), high: back(mean + q * wide) },
      meanInterval: { low: back(mean - q * se), high: back(mean + q * se) },
      mean: tidy(mean),
      se: tidy(se),
      unknown: input.terms.filter((_, k) => places[k]! < 0),
    };
    known.set(id, answer);
    return answer;
  });
  const intercept = at.predict([[0, 1]], []);
  return {
    format: 'versipel-translation/1',
    scale: input.scale,
    observations: input.observations.length,
    criterion: tidy(fit.objective),
    intercept: { effect: tidy(intercept.mean), se: tidy(Math.sqrt(intercept.variance)) },
    variances,
    residual: { variance: tidy(residual), sd: tidy(Math.sqrt(residual)) },
    effects,
    predictions,
    converged: fit.converged,
    iterations: fit.iterations,
  };
}
