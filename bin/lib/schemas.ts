import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { z } from 'zod';
import { shippedModels } from '#core/controls/index.ts';
import { causesTable, statementsTable } from '#core/job/index.ts';
import { packBodySchema, sealPack } from '#core/pack/index.ts';
import { milliCelsiusToFahrenheit } from '#core/units/index.ts';
import { behaviourTable } from './behaviourTable.ts';
import { verbs } from './verbs.ts';

// Writes docs/schemas: the JSON Schema and a worked example of every verb. With --check it only compares.
const folder = join(dirname(fileURLToPath(import.meta.url)), '../../docs/schemas');
const [marlow, oxbow] = shippedModels;
const seen = (strength: number, grade: string) => ({
  coupon: 'first',
  strength,
  figures: [{ grades: [{ passes: 1, grade }] }],
});
const nym = (n: number) => `00000000-0000-8000-8000-${String(n).padStart(12, '0')}`;
const key = (n: number) => `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`;
const marlowSetting = (force: number) => ({ model: 'marlow-24', version: 1, steps: { force, speed: 4, passes: 1 } });
const packExample: z.input<typeof packBodySchema> = {
  format: 'versipel-pack/1',
  made: '2026-11-20T12:00:00.000Z',
  home: 'https://shelf.example',
  title: 'Quillow Starling on Marlow 24',
  author: 'Ottoline Fenn',
  licence: 'cc-by',
  people: [{ key: nym(1), name: 'Ottoline Fenn' }, { key: nym(2) }],
  models: [marlow!],
  vinyls: [
    { key: key(1), brand: 'Quillow', name: 'Starling', type: 'glitter', colours: [{ name: 'ember', hex: '#c8452f' }] },
  ],
  cutters: [
    { key: nym(3), person: nym(1), model: { key: 'marlow-24', version: 1 } },
    { key: nym(4), person: nym(2), model: { key: 'marlow-24', version: 1 } },
  ],
  blades: [
    { key: nym(5), angle: 45 },
    { key: nym(6), angle: 60 },
  ],
  cards: [
    {
      key: key(2),
      person: nym(1),
      vinyl: key(1),
      wanted: 'clean',
      versions: [
        {
          number: 1,
          published: '2026-11-18T09:30:00.000Z',
          change: '',
          licence: 'cc-by',
          cutter: nym(3),
          blade: nym(5),
          vinyl: { brand: 'Quillow', name: 'Starling', type: 'glitter', colour: 'ember', hex: '#c8452f' },
          setting: marlowSetting(134),
          conditions: 'A dull day, a cold room.',
          asked: { target: { blade: 'blade1' } },
          cells: [
            { coupon: 'cut1', blade: 'blade1', strength: 115, figures: [{ grades: [{ passes: 1, grade: 'hangs' }] }] },
            { coupon: 'cut1', blade: 'blade1', strength: 134, figures: [{ grades: [{ passes: 1, grade: 'clean' }] }] },
            { coupon: 'cut1', blade: 'blade1', strength: 156, figures: [{ grades: [{ passes: 1, grade: 'scored' }] }] },
          ],
          evidence: (
            [
              [115, 'hangs'],
              [134, 'clean'],
              [156, 'scored'],
            ] as const
          ).map(([force, grade]) => ({
            at: '2026-11-17T18:05:00.000',
            kind: 'coupon' as const,
            setting: marlowSetting(force),
            passes: 1,
            grade,
            angle: 45,
            colour: 'ember',
            batch: '',
          })),
        },
      ],
      confirmations: [
        {
          key: key(3),
          version: 1,
          person: nym(2),
          cutter: nym(4),
          blade: nym(6),
          at: '2026-11-19T20:10:00.000',
          setting: marlowSetting(134),
          passes: 1,
          grade: 'clean',
          outcome: 'worked',
          said: 'Small holes came out too.',
        },
      ],
    },
  ],
};
const inch = 25_400;
const examples: Record<string, unknown> = {
  artwork: {
    format: 'versipel-svg/1',
    svg: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 60"><path fill="#1f3a5f" d="M0 0H40V29H60V0H100V60H60V31H40V60H0Z"/></svg>',
    width_mm: 40,
    layers: [{ colour: '#1f3a5f', vinyl: { min_feature_mm: 1, min_gap_mm: 0.5, growth_mm: 0, cut_from: 'back' } }],
  },
  place: {
    format: 'versipel-place/1',
    blank: { width: 20 * inch, height: 26 * inch, margins: { side: inch, top: inch, bottom: 2 * inch } },
    design: { width: 11 * inch, height: 8 * inch },
    spot: { from: 'below', down: 3 * inch, anchor: { x: 0.5, y: 0 } },
    shape: 'shirt',
    size: 'XL',
  },
  layers: {
    format: 'versipel-layers/1',
    fabric: 'plain-cloth',
    layers: [
      { id: 'sail', type: 'smooth', seconds: [10, 15], peel: 'warm' },
      { id: 'hull', type: 'glitter', heat: { from: 300, to: 330, unit: 'F' }, seconds: [15, 15], peel: 'warm' },
      { id: 'lantern', type: 'puff' },
    ],
    pairs: [{ below: 'sail', above: 'hull', how: 'knock out' }],
  },
  swatch: {
    format: 'versipel-swatch/1',
    usual: { heat: { degrees: 305, unit: 'F' }, seconds: 15 },
    range: { from: 270, to: 350, unit: 'F' },
    cells: (
      [
        [290, 8, 'edges lift', 'fine'],
        [290, 15, 'bonded', 'fine'],
        [290, 30, 'bonded', 'fine'],
        [320, 8, 'bonded', 'fine'],
        [320, 15, 'bonded', 'fine'],
        [320, 30, 'bonded', 'shine mark'],
      ] as const
    ).map(([degrees, seconds, bond, harm]) => ({ heat: { degrees, unit: 'F' as const }, seconds, bond, harm })),
  },
  recipe: {
    format: 'versipel-recipe/1',
    on: '2026-11-20',
    type: 'smooth',
    surface: 'plain-cloth',
    thinUm: 1_500,
    outcomes: ['2026-11-01', '2026-11-08'].map((day) => ({
      day,
      piece: 'front',
      of: day,
      way: { heat: 152_000, seconds: [15, 15] as [number, number], pressure: 'medium' as const, peel: 'warm' as const },
      word: 'bonded' as const,
    })),
  },
  job: {
    format: 'versipel-job/1',
    plan: {
      format: 'versipel-job-plan/1',
      blank: {
        shape: 'shirt',
        surface: 'plain-cloth',
        width: 20 * inch,
        height: 26 * inch,
        margins: { side: inch, top: inch, bottom: 2 * inch },
        size: 'XL',
        hex: '#223344',
        side: 'front',
      },
      pieces: [{ id: key(11) }],
      design: {
        artwork: 'a'.repeat(64),
        name: 'Drum star',
        widthUm: 11 * inch,
        sized: true,
        spot: { from: 'below', down: 3 * inch, anchor: { x: 0.5, y: 0 } },
      },
      layers: [{ id: key(12), path: 'l1', vinyl: key(13) }],
      loads: [{ id: key(14), parts: [{ id: key(15), layer: key(12), pieces: [key(11)] }] }],
    },
    widths: [null, 11 * inch],
    press: [{ what: 'before' }, { what: `layer ${key(12)}`, layers: [key(12)] }],
    events: [
      {
        id: key(16),
        job: key(10),
        step: `trim/${key(15)}`,
        attempt: 1,
        rev: 2,
        device: nym(7),
        deviceAt: '2026-11-20T12:00:00.000Z',
        kind: 'done',
      },
    ],
    now: '2026-11-20T12:05:00.000Z',
  },
  seal: packExample,
  pack: sealPack(packBodySchema.parse(packExample)),
  fit: {
    format: 'versipel-fit/1',
    model: marlow,
    type: 'glitter',
    cells: [
      seen(90, 'uncut'),
      seen(105, 'hangs'),
      seen(122, 'clean'),
      seen(142, 'clean'),
      seen(166, 'scored'),
      seen(192, 'through'),
    ],
  },
  controls: {
    format: 'versipel-controls/1',
    model: { key: 'pellam-leaf' },
    typed: { material: 'glitter film, more pressure', passes: '2' },
  },
  scale: {
    format: 'versipel-scale/1',
    axis: oxbow!.axes.find((a) => a.role === 'strength'),
    readings: [
      { position: 2, grams: 62 },
      { position: 6, grams: 118 },
      { position: 10, grams: 171 },
      { position: 14, grams: 240 },
    ],
  },
  'read-hpgl': { format: 'versipel-hpgl/1', hpgl: 'IN;SP1;FS120;PU0,0;PD400,0,400,400,0,400,0,0;PU;SP0;' },
  plan: { format: 'versipel-plan/1', model: oxbow, type: 'flock', count: 6 },
  ways: { format: 'versipel-plan/1', model: marlow, type: 'glitter', around: { position: 140 } },
  evenness: {
    format: 'versipel-evenness/1',
    places: [0, 140_000, 280_000].flatMap((y) =>
      [0, 140_000, 280_000].map((x) => ({ x, y, grade: x === 0 ? 'uncut' : 'clean' })),
    ),
    thresholds: [-0.15, 0, 0.42, 0.72],
    sigma: 0.05,
  },
  standing: {
    format: 'versipel-standing/1',
    on: '2026-11-20',
    evidence: Array.from({ length: 30 }, (_, i) => ({
      kind: i < 6 ? 'coupon' : 'job',
      day: `2026-11-${String(10 + (i % 4)).padStart(2, '0')}`,
      person: 'somebody',
      outcome: i === 7 ? 'failed' : 'worked',
    })),
  },
  camps: {
    format: 'versipel-camps/1',
    points: [-0.2, -0.18, -0.22, 0.2, 0.24, 0.19].map((at, i) => ({
      at,
      sd: 0.05,
      person: `crafter ${i + 1}`,
      model: i < 3 ? 'number' : 'dial',
    })),
  },
  translate: {
    scale: 'log',
    terms: ['model', 'cutter', 'type', 'vinyl'],
    observations: [
      ['number', '1', 'smooth', 'plain', 104],
      ['number', '1', 'glitter', 'starling', 141],
      ['number', '2', 'smooth', 'plain', 96],
      ['number', '2', 'glitter', 'crumb', 128],
      ['number', '3', 'smooth', 'plain', 100],
      ['number', '3', 'glitter', 'starling', 133],
      ['number', '3', 'smooth', 'soft', 92],
    ].map(([model, cutter, type, vinyl, value]) => ({
      model,
      cutter: `${model}/${cutter}`,
      type,
      vinyl: `${type}/${vinyl}`,
      value,
    })),
    predict: [{ model: 'number', cutter: 'number/2', type: 'glitter', vinyl: 'glitter/starling' }],
    level: 0.9,
  },
  shelf: {
    format: 'versipel-shelf/1',
    settings: ['a', 'b', 'c'].flatMap((cutter, c) =>
      [0, 0.3, 0.45].flatMap((load, v) => [
        { model: 'number', cutter, type: 'smooth', vinyl: `v${v}`, z: Number((load + 0.05 * c).toFixed(3)), se: 0.05 },
        ...(v < 2
          ? [
              {
                model: 'dial',
                cutter,
                type: 'smooth',
                vinyl: `v${v}`,
                z: Number((1 + 1.3 * load).toFixed(3)),
                se: 0.05,
              },
            ]
          : []),
      ]),
    ),
    predict: [{ model: 'dial', cutter: 'a', type: 'smooth', vinyl: 'v2' }],
  },
  coupon: {
    format: 'versipel-coupon/1',
    model: marlow,
    title: 'Starling, ember red',
    cutFrom: 'back',
    cells: [90, 105, 122, 142, 166, 192].map((force, i) => ({
      number: i + 1,
      setting: { model: 'marlow-24', version: 1, steps: { force, speed: 4, passes: 1 } },
    })),
  },
};

const check = process.argv.includes('--check');
const stale: string[] = [];
mkdirSync(folder, { recursive: true });
for (const [name, verb] of Object.entries(verbs)) {
  if (!(name in examples))
    throw new Error(`bin/core ${name} has no example: add one to "examples" in bin/lib/schemas.ts`);
  const files = {
    [`${name}.schema.json`]: {
      title: `bin/core ${name}`,
      description: verb.about,
      ...z.toJSONSchema(verb.input, { io: 'input' }),
    },
    [`${name}.example.json`]: examples[name],
  };
  for (const [file, content] of Object.entries(files)) {
    const path = join(folder, file);
    const text = `${JSON.stringify(content, null, 2)}\n`;
    if (!check) writeFileSync(path, text);
    else {
      let now = '';
      try {
        now = readFileSync(path, 'utf8');
      } catch {
        // missing counts as stale
      }
      if (now !== text) stale.push(file);
    }
  }
}
/** A page of docs that is made from a table of core. */
function page(file: string, text: string): void {
  const path = join(folder, '..', file);
  if (!check) writeFileSync(path, text);
  else if (!existsSync(path) || readFileSync(path, 'utf8') !== text) stale.push(file);
}
const heat = (mc: number) => `${Math.round(milliCelsiusToFahrenheit(mc))} °F (${Math.round(mc / 1000)} °C)`;
page(
  'vinyl-types.md',
  `# Vinyl types and what is taken for granted about them

Made by \`npm run schemas\` from core/vinyls. How it lies, is cut and pressed is common practice, without a published source: a starting point that the leaflet of
the vinyl in hand, and its first coupon, outweigh. Thickness, least line and gap, growth, wear and ranges of heat are judgement: guesses of
ours that a person may overrule, and that move no figure somebody said ([each statement with what it rests on](statements.md)). Where crafters go two ways, both stand here.

## How it lies and is pressed

${behaviourTable(heat)}
`,
);
page(
  'causes.md',
  `# What may be behind something that went wrong

Made by \`npm run schemas\` from core/job/causes.ts. That these are the causes is common practice, without a published source. The shares
say how often a cause is behind what is seen while nothing else is known; a clue in the record multiplies them. Both are set by hand;
answers to "did it help?" move them for each person.

${causesTable()}
`,
);
page(
  'statements.md',
  `# What is taken for granted

Made by \`npm run schemas\` from core/job/statements.ts. Common practice is what crafters do and say, without a published source; judgement is a
guess of ours, which a person may overrule as it says beside it, and which moves no figure that somebody said; a standard is published.

${statementsTable(heat)}
`,
);
if (stale.length > 0) {
  console.error(`docs/schemas is out of date: ${stale.join(', ')}. Run "npm run schemas".`);
  process.exit(1);
}
