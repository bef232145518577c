import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../stats/index.ts';
import { dialDefaults, drawsWithDial, readDial, systematic, type DialWord, type FilmSeen } from './dial.ts';
import { planSwatch } from './planSwatch.ts';
import { gridOf, gridOfWords, posterior, readSwatch, type Dial } from './readSwatch.ts';
import { swatch, swatchInputSchema } from './swatchInput.ts';
import { gradeChance, swatchPrior, type SwatchCell, type SwatchGrade, type SwatchSeen } from './swatchModel.ts';

const usual = { heat: 150_000, seconds: 15 };
const words: DialWord[] = [
  { word: 'low', heat: 129_000, sd: 12_000 },
  { word: 'medium', heat: 149_000, sd: 12_000 },
  { word: 'high', heat: 171_000, sd: 12_000 },
];
const dial: Dial = { words, others: [] };
/** A film that bonds from a dose of −0.5 on and suffers from 0.8 on. */
const truth = (heat: number, seconds: number): { bond: SwatchGrade; harm: SwatchGrade } => {
  const dose = (beta: number) => Math.log(seconds / 15) + (beta * (heat - 150_000)) / 10_000;
  const [b, h] = [dose(0.35), dose(0.55)];
  return { bond: b > -0.5 ? 2 : b > -0.85 ? 1 : 0, harm: h < 0.8 ? 0 : h < 1.1 ? 1 : 2 };
};
const pressed = (word: string, truly: number, times: readonly number[]): SwatchSeen[] =>
  times.map((seconds) => ({
    word,
    heat: words.find((w) => w.word === word)!.heat,
    seconds,
    ...truth(truly, seconds),
  }));
/** The same film where its heats are known: two cards and more on a press that shows degrees. */
const known: SwatchSeen[] = [135, 145, 155, 165].flatMap((c) =>
  [4, 6, 8, 11, 15, 22, 32, 45].map((seconds) => ({ heat: c * 1000, seconds, ...truth(c * 1000, seconds) })),
);
const film = (seen: readonly SwatchSeen[], seed = 1): FilmSeen => ({ prior: swatchPrior(seed, 1500), seen, usual });

describe('what a word on a dial has', () => {
  it('before any square it lies where such words do, and the dial runs upwards', () => {
    const read = readDial(words, []);
    read.forEach((w, i) => expect(Math.abs(w.heat - words[i]!.heat)).toBeLessThan(3_000));
    expect(read.every((w) => w.sd > 8_000 && w.sd <= 12_500)).toBe(true);
  });

  it('a film that is known finds it within 6 °C, hot or cool, on the word that was pressed', () => {
    for (const off of [-14_000, -6_000, 5_000, 15_000]) {
      const seen = pressed('medium', 149_000 + off, [4, 6, 9, 13, 20, 30]);
      const [, medium] = readDial(words, [film([...known, ...seen])]);
      expect(Math.abs(medium!.heat - (149_000 + off))).toBeLessThan(6_000);
      expect(medium!.sd).toBeLessThan(dialDefaults.found);
    }
  });

  it('a film that is not known tells less; a second one of its own kind tells more', () => {
    const hot = (seed: number) => film(pressed('medium', 161_000, [4, 6, 9, 13, 20, 30]), seed);
    const [one] = readDial([words[1]!], [hot(1)]);
    const [two] = readDial([words[1]!], [hot(1), hot(2)]);
    const [sure] = readDial([words[1]!], [film([...known, ...pressed('medium', 161_000, [4, 6, 9, 13, 20, 30])])]);
    expect(one!.sd).toBeLessThan(12_000);
    expect(two!.sd).toBeLessThan(one!.sd);
    expect(sure!.sd).toBeLessThan(two!.sd);
    expect(two!.heat).toBeGreaterThan(one!.heat);
  });

  it('a word that is found pushes its neighbours: none is hotter than the next', () => {
    const seen = pressed('medium', 172_000, [4, 6, 9, 13, 20, 30]);
    const read = readDial(words, [film([...known, ...seen])]);
    expect(read[2]!.heat).toBeGreaterThan(read[1]!.heat);
    expect(read[2]!.heat).toBeGreaterThan(words[2]!.heat);
  });

  it('agrees with drawing words and faces together by chance, 200 000 draws of them', () => {
    // Importance sampling from the joint prior: another way to the same posterior, with no steps of heat.
    const pair = words.slice(0, 2);
    const seen = [...pressed('low', 140_000, [10, 20, 40]), ...pressed('medium', 158_000, [6, 12])];
    const exact = readDial(pair, [{ prior: swatchPrior(4, 4_000), seen, usual }]);
    const random = seededRandom(12);
    const prior = swatchPrior(9, 20_000);
    const sums = pair.map(() => ({ m: 0, v: 0 }));
    let total = 0;
    for (let round = 0; round < 10; round++)
      prior.bonds.forEach((bond, d) => {
        const heats = pair.map((w) => w.heat + w.sd * random.normal());
        if (heats[1]! <= heats[0]!) return;
        const at = new Map(pair.map((w, k) => [w.word, heats[k]!]));
        const harm = prior.harms[(d * 7 + round * 31) % prior.harms.length]!;
        let weight = 1;
        for (const c of seen)
          weight *=
            gradeChance({ ...bond, words: at }, c, usual, c.bond!) *
            gradeChance({ ...harm, words: at }, c, usual, c.harm!);
        total += weight;
        heats.forEach((h, k) => {
          sums[k]!.m += weight * h;
          sums[k]!.v += weight * h * h;
        });
      });
    exact.forEach((w, k) => {
      const mean = sums[k]!.m / total;
      const sd = Math.sqrt(sums[k]!.v / total - mean * mean);
      expect(Math.abs(w.heat - mean)).toBeLessThan(1_500);
      expect(Math.abs(w.sd - sd)).toBeLessThan(1_500);
    });
  });
});

describe('a recipe by words', () => {
  it('two cards name a word and a time at which the film truly bonds and does not suffer', () => {
    const truly: Record<string, number> = { low: 138_000, medium: 161_000, high: 178_000 };
    const grid = gridOfWords(words);
    let seen: SwatchSeen[] = [];
    let reading = readSwatch(seen, usual, grid, { dial });
    for (let card = 0; card < 2 && reading.verdict === 'more'; card++) {
      const next = planSwatch(seen, usual, grid, reading, { seed: 3, dial });
      expect(new Set(next.map((c) => c.word)).size).toBeLessThanOrEqual(2);
      expect(next.length).toBeLessThanOrEqual(6);
      for (const c of next) expect(grid).toContainEqual(c);
      seen = [...seen, ...next.map((c) => ({ ...c, ...truth(truly[c.word!]!, c.seconds) }))];
      reading = readSwatch(seen, usual, grid, { dial });
    }
    expect(reading.verdict).toBe('enough');
    expect(truth(truly[reading.recipe!.word!]!, reading.recipe!.seconds)).toEqual({ bond: 2, harm: 0 });
  });

  it('with the heat of a word for certain it says what degrees say', () => {
    const certain: Dial = { words: [{ word: 'medium', heat: 150_000, sd: 1 }], others: [] };
    const cells = [6, 12, 25].map((seconds): SwatchSeen => ({ heat: 150_000, seconds, ...truth(150_000, seconds) }));
    const byWord = posterior(
      cells.map((c) => ({ ...c, word: 'medium' })),
      usual,
      { dial: certain },
    );
    const byHeat = posterior(cells, usual);
    const mean = ({ faces, weights }: typeof byHeat.bonds) => faces.reduce((s, f, i) => s + weights[i]! * f.high, 0);
    expect(Math.abs(mean(byWord.bonds) - mean(byHeat.bonds))).toBeLessThan(0.03);
  });

  it('draws come with a heat for each word, as many as the prior has, cooler words first', () => {
    const draws = drawsWithDial(film(pressed('low', 135_000, [10, 20])), [], words, seededRandom(2));
    for (const of of [draws.bonds, draws.harms]) {
      expect(of).toHaveLength(1500);
      for (const { words: at } of of) {
        const heats = words.map((w) => at!.get(w.word)!);
        expect(heats.toSorted((a, b) => a - b)).toEqual(heats);
      }
    }
  });

  it('systematic draws: as many as asked for, each within one of its share', () => {
    const random = seededRandom(5);
    for (let k = 0; k < 50; k++) {
      const raw = Array.from({ length: 20 }, () => random.uniform() ** 3);
      const sum = raw.reduce((a, b) => a + b, 0);
      const weights = raw.map((w) => w / sum);
      const times = systematic(weights, 100, random);
      expect(times.reduce((a, b) => a + b, 0)).toBe(100);
      times.forEach((n, i) => expect(Math.abs(n - 100 * weights[i]!)).toBeLessThan(1 + 1e-9));
    }
  });
});

describe('a dial as `bin/core swatch` takes it', () => {
  const F = (degrees: number) => ({ degrees, unit: 'F' as const });
  const base = {
    format: 'versipel-swatch/1',
    usual: { heat: F(305), seconds: 15 },
    range: { from: 270, to: 350, unit: 'F' },
  };
  const three = [
    { word: 'low', heat: F(265) },
    { word: 'medium', heat: F(300) },
    { word: 'high', heat: F(340) },
  ];
  const ask = (more: object) => swatch(swatchInputSchema.parse({ ...base, ...more }));

  it('cards, recipe and safe region are said in words; what was measured is in no doubt', () => {
    const read = ask({ dial: { words: [{ ...three[0], doubt: 0 }, three[1], three[2]] } });
    expect(read.next.every((c) => c.word !== undefined)).toBe(true);
    expect(read.dial!.map((w) => [w.word, w.doubt > 0, w.known])).toEqual([
      ['low', false, 'measured'],
      ['medium', true, 'open'],
      ['high', true, 'open'],
    ]);
    expect(new Set(read.region.map((p) => p.word))).toEqual(new Set(['low', 'medium', 'high']));
    expect(ask({}).dial).toBeUndefined();
  });

  it('a word that is likely hotter than film and fabric bear is not tried', () => {
    const low = ask({ dial: { words: three }, range: { from: 250, to: 290, unit: 'F' } });
    expect(new Set(low.region.map((p) => p.word))).toEqual(new Set(['low']));
    expect(low.next.every((c) => c.word === 'low')).toBe(true);
    // Where even the coolest may be too hot, it is the one there is.
    const cold = ask({ dial: { words: three.slice(1) }, range: { from: 200, to: 230, unit: 'F' } });
    expect(new Set(cold.region.map((p) => p.word))).toEqual(new Set(['medium']));
  });

  it('what another film showed of a word counts: hotter than said, it makes the recipe shorter', () => {
    const cells = known.map((c) => ({
      heat: { degrees: c.heat / 1000, unit: 'C' },
      seconds: c.seconds,
      bond: (['not bonded', 'edges lift', 'bonded'] as const)[c.bond!],
      harm: (['fine', 'shine mark', 'scorched'] as const)[c.harm!],
    }));
    const hot = pressed('medium', 166_000, [3, 5, 8, 12, 18, 30]).map((c) => ({
      word: 'medium',
      heat: F(300),
      seconds: c.seconds,
      bond: (['not bonded', 'edges lift', 'bonded'] as const)[c.bond!],
      harm: (['fine', 'shine mark', 'scorched'] as const)[c.harm!],
    }));
    const others = [{ usual: { heat: { degrees: 150, unit: 'C' as const }, seconds: 15 }, cells: [...cells, ...hot] }];
    const [alone, told] = [ask({ dial: { words: three } }), ask({ dial: { words: three, others } })];
    const medium = (r: typeof alone) => r.dial!.find((w) => w.word === 'medium')!;
    expect(medium(told).celsius).toBeGreaterThan(medium(alone).celsius + 8);
    expect(medium(told).known).toBe('found');
    const harm = (r: typeof alone) => r.region.find((p) => p.word === 'medium' && p.seconds === 30)!.unharmed;
    expect(harm(told)).toBeLessThan(harm(alone));
  });

  it('twelve squares elsewhere that named nothing leave twelve for a press set by words', () => {
    const cells = Array.from({ length: 12 }, (_, i) => ({
      heat: F(270 + 10 * (i % 3)),
      seconds: 5 + i,
      bond: i % 2 ? 'edges lift' : 'not bonded',
      harm: i % 3 ? 'fine' : 'shine mark',
    }));
    expect(ask({ cells }).verdict).toBe('none');
    const byWord = ask({ cells, dial: { words: three } });
    expect(byWord.verdict).toBe('more');
    expect(byWord.next.length).toBeGreaterThan(0);
    const used = cells.map((c, i) => ({ ...c, heat: three[i % 3]!.heat, word: three[i % 3]!.word }));
    expect(ask({ cells: [...cells, ...used], dial: { words: three } }).verdict).toBe('none');
  });

  it('whatever is said against one another leaves some doubt: a step of the heats that are tried, at least', () => {
    const said = (word: string, degrees: number, seconds: number, bond: string, harm: string) => ({
      word,
      heat: F(degrees),
      seconds,
      bond,
      harm,
    });
    const { dial: read } = ask({
      dial: { words: three },
      cells: Array.from({ length: 16 }, (_, i) =>
        said('medium', 300, 4 + 3 * i, i % 2 ? 'bonded' : 'not bonded', i % 3 ? 'fine' : 'scorched'),
      ),
    });
    for (const w of read!) expect(w.doubt).toBeGreaterThan(1.5);
  });

  it('words that stand twice, or do not run upwards, are refused with their place', () => {
    const issue = (dialWords: object[]) =>
      swatchInputSchema.safeParse({ ...base, dial: { words: dialWords } }).error!.issues[0]!;
    expect(issue([three[0]!, three[0]!])).toMatchObject({ path: ['dial', 'words', 1, 'word'] });
    expect(issue([three[1]!, three[0]!])).toMatchObject({ path: ['dial', 'words', 1, 'heat'] });
    expect(issue([])).toMatchObject({ path: ['dial', 'words'] });
  });

  it('more time at one word never bonds less or harms less, whatever was seen', () => {
    const random = seededRandom(8);
    for (let k = 0; k < 4; k++) {
      const seen = Array.from({ length: 5 }, (): SwatchSeen => {
        const c: SwatchCell = gridOfWords(words)[Math.floor(random.uniform() * 45)]!;
        return {
          ...c,
          bond: Math.floor(random.uniform() * 3) as SwatchGrade,
          harm: Math.floor(random.uniform() * 3) as SwatchGrade,
        };
      });
      const { grid } = readSwatch(seen, usual, gridOfWords(words), { draws: 500, dial });
      for (const p of grid)
        for (const q of grid)
          if (p.word === q.word && q.seconds >= p.seconds) {
            expect(q.bonded).toBeGreaterThanOrEqual(p.bonded - 1e-9);
            expect(q.unharmed).toBeLessThanOrEqual(p.unharmed + 1e-9);
          }
    }
  });

  it('a press that shows degrees is read as before: no dial, every 5 °C', () => {
    expect(gridOf(130_000, 150_000).every((c) => c.word === undefined)).toBe(true);
  });
});
