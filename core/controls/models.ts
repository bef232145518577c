import { cutterModelSchema, type CutterModel } from './model.ts';

/** Passes that the operator runs: one to four. */
const passes = {
  kind: 'number',
  key: 'passes',
  word: 'passes',
  role: 'passes',
  min: 1,
  max: 4,
  step: 1,
  scale: 'linear',
  start: 1,
} as const;
const marlowSpeed = {
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
} as const;
const marlowForce = {
  kind: 'number',
  key: 'force',
  word: 'force',
  role: 'strength',
  min: 10,
  max: 400,
  step: 1,
  scale: 'log',
  start: 100,
} as const;

/**
 * The cutter models that ship with the product, one for each way of stating strength. All are invented. A published version
 * never changes: add a new one.
 */
export const shippedModels: CutterModel[] = [
  {
    key: 'marlow-24',
    version: 1,
    name: 'Marlow 24',
    about: 'A number for force, a number for speed. The force is about proportional to the load on the tip.',
    axes: [marlowForce, marlowSpeed, passes],
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
      passes,
    ],
  },
  {
    key: 'marlow-24',
    version: 2,
    name: 'Marlow 24',
    about: 'Numbers for blade depth, speed and force. It takes force and speed from the file.',
    axes: [
      {
        kind: 'number',
        key: 'depth',
        word: 'blade depth',
        role: 'depth',
        min: 1,
        max: 10,
        step: 1,
        scale: 'linear',
        start: 3,
      },
      marlowSpeed,
      marlowForce,
      passes,
    ],
    hpgl: { force: 'force', speed: 'speed' },
  },
  {
    key: 'pellam-leaf',
    version: 1,
    name: 'Pellam Leaf',
    about: 'A list of materials, each with less, normal or more pressure. Passes are run by pressing start again.',
    axes: [
      {
        kind: 'list',
        key: 'material',
        word: 'material',
        role: 'strength',
        entries: [
          { name: 'window cling', load: -0.5 },
          { name: 'thin film', load: -0.25 },
          { name: 'plain film', load: 0 },
          { name: 'shimmer film', load: 0.2 },
          { name: 'glitter film', load: 0.4 },
          { name: 'flock film', load: 0.55 },
          { name: 'light card', load: 0.75 },
          { name: 'thin hide', load: 1 },
        ],
        modifier: { word: 'pressure', names: ['less', 'normal', 'more'], normal: 1 },
        start: 7,
      },
      passes,
    ],
  },
  {
    key: 'sorrel-custom',
    version: 1,
    name: 'Sorrel 12',
    about: 'Custom materials with one number each, from 0 to 100. The number is not proportional to the load.',
    axes: [
      {
        kind: 'number',
        key: 'custom',
        word: 'custom number',
        role: 'strength',
        min: 0,
        max: 100,
        step: 1,
        scale: 'linear',
        start: 34,
      },
      passes,
    ],
  },
  {
    key: 'whin-duo',
    version: 1,
    name: 'Whin Duo',
    about: 'Blade, speed and a pressure that runs from minus to plus.',
    axes: [
      {
        kind: 'number',
        key: 'blade',
        word: 'blade',
        role: 'depth',
        min: 1,
        max: 10,
        step: 1,
        scale: 'linear',
        start: 3,
      },
      {
        kind: 'number',
        key: 'speed',
        word: 'speed',
        role: 'speed',
        min: 1,
        max: 8,
        step: 1,
        scale: 'linear',
        start: 3,
      },
      {
        kind: 'number',
        key: 'pressure',
        word: 'pressure',
        role: 'strength',
        min: -8,
        max: 8,
        step: 1,
        scale: 'linear',
        start: -1,
        signed: true,
      },
    ],
  },
].map((model) => cutterModelSchema.parse(model));

/** A shipped model by key and version. */
export function shippedModel(key: string, version: number): CutterModel | undefined {
  return shippedModels.find((m) => m.key === key && m.version === version);
}
