import { cutterModelSchema, type CutterModel } from './model.ts';

/** The cutter models that ship with the product. All are invented. A published version never changes: add a new one. */
export const shippedModels: CutterModel[] = [
  {
    key: 'marlow-24',
    version: 1,
    name: 'Marlow 24',
    about: 'A number for force, a number for speed. The force is about proportional to the load on the tip.',
    axes: [
      {
        kind: 'number',
        key: 'force',
        word: 'force',
        role: 'strength',
        min: 10,
        max: 400,
        step: 1,
        scale: 'log',
        start: 100,
      },
      {
        kind: 'number',
        key: 'speed',
        word: 'speed',
        role: 'speed',
        min: 1,
        max: 10,
        step: 1,
        scale: 'linear',
        start: 4,
        words: { '1': 'slowest', '4': 'slow', '7': 'brisk', '10': 'fastest' },
      },
      {
        kind: 'number',
        key: 'passes',
        word: 'passes',
        role: 'passes',
        min: 1,
        max: 4,
        step: 1,
        scale: 'linear',
        start: 1,
      },
    ],
  },
  {
    key: 'oxbow-dial',
    version: 1,
    name: 'Oxbow Dial',
    about: 'One dial with nine stops that also holds between them. Passes are run by pressing start again.',
    axes: [
      {
        kind: 'dial',
        key: 'dial',
        word: 'dial',
        role: 'strength',
        stops: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
        halves: true,
        start: 7,
      },
      {
        kind: 'number',
        key: 'passes',
        word: 'passes',
        role: 'passes',
        min: 1,
        max: 4,
        step: 1,
        scale: 'linear',
        start: 1,
      },
    ],
  },
].map((model) => cutterModelSchema.parse(model));

/** A shipped model by key and version. */
export function shippedModel(key: string, version: number): CutterModel | undefined {
  return shippedModels.find((m) => m.key === key && m.version === version);
}
