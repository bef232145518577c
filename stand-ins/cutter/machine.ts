import { readHpgl } from '#core/cutfile/index.ts';
import { seededRandom, type Random } from '#core/stats/index.ts';
import { gradeOf, gramsByHand, matFor, runPass, type CutPath, type Mat, type TrueGrade } from './physics.ts';
import { pictureOf } from './picture.ts';

/** A fault asked for by a test, used once. */
export type Fault =
  | {
      kind: 'drop';
      /** After how many cells. */ after: number;
      /** Whether the cell is cut before the line breaks. */ cuts: boolean;
    }
  | { kind: 'busy' }
  | { kind: 'unknown' };

const KNOWN = new Set([
  'IN',
  'DF',
  'PA',
  'PR',
  'PU',
  'PD',
  'SP',
  'VS',
  'FS',
  'CO',
  'AA',
  'AR',
  'CI',
  'EA',
  'ER',
  'SC',
  'IP',
  'OA',
  'OS',
  'OE',
  'OI',
]);

type Cell = { passes: number; vinyl: string; paths: CutPath[]; day: number };

/** The machine behind the line: it holds what was cut, and no idea of coupons, grades or settings. */
export class Machine {
  private readonly cells = new Map<string, Cell>();
  private readonly random: Random;
  private metres = 0;
  error = 0;
  position = '0,0,0';

  /** @param film one film of so many µm for every vinyl; hidden behind the vinyl's name when left out */
  constructor(
    private readonly seed: number,
    private readonly film?: number,
  ) {
    this.random = seededRandom(seed);
  }

  private mat(vinyl: string, age: number): Mat {
    const hidden = matFor(vinyl, this.seed, age);
    return this.film === undefined ? hidden : { ...hidden, film: this.film, carrier: 110 };
  }

  /** Cuts a chunk of HP-GL that has come in whole. Instructions it does not know are passed over and remembered as error 1. */
  cut(chunk: string): void {
    const drawing = readHpgl(chunk);
    if (Object.keys(drawing.unknown).some((name) => !KNOWN.has(name))) this.error = 1;
    const last = drawing.strokes.at(-1);
    if (last) {
      const [x, y] = last.path.closed ? last.path.points[0]! : last.path.points.at(-1)!;
      this.position = `${Math.round(x / 25)},${Math.round(y / 25)},0`;
    }
    const groups = new Map<string, typeof drawing.strokes>();
    for (const stroke of drawing.strokes) {
      const id = /cell=([\w-]+)/.exec(stroke.comment ?? '')?.[1];
      if (id) groups.set(id, [...(groups.get(id) ?? []), stroke]);
    }
    for (const [id, strokes] of groups) {
      const said = strokes[0]!.comment!;
      const vinyl = /vinyl=([\w-]+)/.exec(said)?.[1] ?? 'unnamed';
      const hand = /hand=([\d.]+)/.exec(said)?.[1];
      const grams = strokes[0]!.force ?? (hand === undefined ? 100 : gramsByHand(Number(hand)));
      const mat = this.mat(vinyl, this.metres);
      const before = this.cells.get(id);
      const day = before?.day ?? 1 + 0.03 * this.random.normal();
      const paths = strokes.map((s, i) =>
        runPass(s.path, grams, s.speed ?? 4, mat, day, this.random, before?.paths[i]),
      );
      this.metres += paths.reduce((sum, p) => sum + p.points.length * 0.0002, 0);
      this.cells.set(id, { passes: (before?.passes ?? 0) + 1, vinyl, paths, day });
    }
  }

  picture(id: string): string | undefined {
    const cell = this.cells.get(id);
    return cell && pictureOf(cell.paths, this.mat(cell.vinyl, 0), this.truth(id)!.grade);
  }

  /** For tests: what really happened, and how often the blade went over it. */
  truth(id: string): { grade: TrueGrade; passes: number } | undefined {
    const cell = this.cells.get(id);
    return cell && { grade: gradeOf(cell.paths, this.mat(cell.vinyl, 0)), passes: cell.passes };
  }
}
