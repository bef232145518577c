import type { Ring } from './rings.ts';

/** Segments of outlines in a grid of squares, so that the nearest to a point is found among few. */
export class SegmentGrid {
  readonly ax: number[] = [];
  readonly ay: number[] = [];
  readonly bx: number[] = [];
  readonly by: number[] = [];
  readonly ring: number[] = [];
  readonly along: number[] = [];
  private readonly left: number;
  private readonly top: number;
  private readonly columns: number;
  private readonly rows: number;
  /** No two points of it lie further apart. */
  readonly reach: number;
  /** Segments of each square, one list after the other, and where each begins. */
  private readonly begins: Int32Array;
  private readonly held: Int32Array;
  /** How many squares each square lies from the nearest that holds anything: whoever looks for the nearest skips that many at once. */
  private away: Uint16Array | undefined;

  constructor(
    rings: readonly Ring[],
    private readonly cell: number,
  ) {
    let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
    rings.forEach((points, ring) => {
      let along = 0;
      for (let i = 0; i < points.length; i++) {
        const [[ax, ay], [bx, by]] = [points[i]!, points[(i + 1) % points.length]!];
        this.ax.push(ax);
        this.ay.push(ay);
        this.bx.push(bx);
        this.by.push(by);
        this.ring.push(ring);
        this.along.push(along);
        along += Math.hypot(bx - ax, by - ay);
        left = Math.min(left, ax);
        top = Math.min(top, ay);
        right = Math.max(right, ax);
        bottom = Math.max(bottom, ay);
      }
    });
    this.left = left;
    this.reach = Math.hypot(right - left, bottom - top) + 1;
    this.top = top;
    this.columns = Math.floor((right - left) / cell) + 1;
    this.rows = Math.floor((bottom - top) / cell) + 1;
    const pairs: number[] = [];
    const count = new Int32Array(this.columns * this.rows + 1);
    for (let id = 0; id < this.ax.length; id++)
      this.squaresOf(id, (square) => {
        pairs.push(square, id);
        count[square + 1]!++;
      });
    for (let i = 1; i < count.length; i++) count[i]! += count[i - 1]!;
    this.begins = count;
    this.held = new Int32Array(pairs.length / 2);
    const next = count.slice();
    for (let i = 0; i < pairs.length; i += 2) this.held[next[pairs[i]!]!++] = pairs[i + 1]!;
  }

  /** The squares a segment runs through, each once: a long slanted one in steps, not in all of its box. */
  private squaresOf(id: number, put: (square: number) => void) {
    const [ax, ay] = [(this.ax[id]! - this.left) / this.cell, (this.ay[id]! - this.top) / this.cell];
    const [bx, by] = [(this.bx[id]! - this.left) / this.cell, (this.by[id]! - this.top) / this.cell];
    const steps = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay)));
    const seen = new Set<number>();
    for (let s = 0; s < steps; s++) {
      const [px, py] = [ax + ((bx - ax) * s) / steps, ay + ((by - ay) * s) / steps];
      const [qx, qy] = [ax + ((bx - ax) * (s + 1)) / steps, ay + ((by - ay) * (s + 1)) / steps];
      for (let i = Math.floor(Math.min(px, qx)); i <= Math.floor(Math.max(px, qx)); i++)
        for (let j = Math.floor(Math.min(py, qy)); j <= Math.floor(Math.max(py, qy)); j++) {
          const square = j * this.columns + i;
          if (i >= 0 && j >= 0 && i < this.columns && j < this.rows && !seen.has(square)) {
            seen.add(square);
            put(square);
          }
        }
    }
  }

  /** Every segment with a point closer to (x, y) than `within`, with that point; one that runs through several squares comes as often. */
  near(x: number, y: number, within: number, visit: (segment: number, x: number, y: number, distance: number) => void) {
    const { cell, columns, rows } = this;
    const [left, right] = [Math.floor((x - within - this.left) / cell), Math.floor((x + within - this.left) / cell)];
    const [top, bottom] = [Math.floor((y - within - this.top) / cell), Math.floor((y + within - this.top) / cell)];
    for (let j = Math.max(0, top); j <= Math.min(rows - 1, bottom); j++)
      for (let i = Math.max(0, left); i <= Math.min(columns - 1, right); i++)
        for (let h = this.begins[j * columns + i]!; h < this.begins[j * columns + i + 1]!; h++) {
          const s = this.held[h]!;
          const [ax, ay] = [this.ax[s]!, this.ay[s]!];
          const [dx, dy] = [this.bx[s]! - ax, this.by[s]! - ay];
          const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
          const [px, py] = [ax + t * dx, ay + t * dy];
          const d = Math.hypot(px - x, py - y);
          if (d < within) visit(s, px, py, d);
        }
  }

  /**
   * The nearest point of any segment closer to (x, y) than `within`.
   * @param takes whether a ring is looked at; all are where it is left out
   */
  nearest(
    x: number,
    y: number,
    within: number,
    takes?: (ring: number) => boolean,
  ): { x: number; y: number; segment: number } | undefined {
    const { cell, columns, rows } = this;
    const [ci, cj] = [Math.floor((x - this.left) / cell), Math.floor((y - this.top) / cell)];
    let best = within * within;
    let found: { x: number; y: number; segment: number } | undefined;
    // Squares round the middle, each time one further out: those k out are at least k − 1 squares away.
    for (let k = this.emptyRound(ci, cj); k <= Math.ceil(within / cell) + 1; k++) {
      if (k > 1 && ((k - 1) * cell) ** 2 > best) break;
      for (let j = Math.max(0, cj - k); j <= Math.min(rows - 1, cj + k); j++) {
        const step = j === cj - k || j === cj + k ? 1 : 2 * k || 1;
        for (let i = ci - k; i <= ci + k; i += step) {
          if (i < 0 || i >= columns) continue;
          const square = j * columns + i;
          for (let h = this.begins[square]!; h < this.begins[square + 1]!; h++) {
            const s = this.held[h]!;
            if (takes && !takes(this.ring[s]!)) continue;
            const [ax, ay] = [this.ax[s]!, this.ay[s]!];
            const [dx, dy] = [this.bx[s]! - ax, this.by[s]! - ay];
            const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
            const [px, py] = [ax + t * dx, ay + t * dy];
            const d = (px - x) ** 2 + (py - y) ** 2;
            if (d < best) {
              best = d;
              found = { x: px, y: py, segment: s };
            }
          }
        }
      }
    }
    return found;
  }

  /** Squares round a square that hold nothing for sure. */
  private emptyRound(ci: number, cj: number): number {
    const { columns, rows } = this;
    const [i, j] = [Math.max(0, Math.min(columns - 1, ci)), Math.max(0, Math.min(rows - 1, cj))];
    const outside = Math.max(Math.abs(i - ci), Math.abs(j - cj));
    // From outside the grid the first squares that can hold anything are those at its edge.
    return Math.max(outside, (this.away ??= this.distances())[j * columns + i]! - outside);
  }

  /** Chessboard distances to the nearest square that holds anything, in two passes. Source: Rosenfeld & Pfaltz, Pattern Recognition 1 (1968). */
  private distances(): Uint16Array {
    const { columns, rows, begins } = this;
    const far = 65_000;
    const away = new Uint16Array(columns * rows);
    const at = (i: number, j: number) => (i < 0 || j < 0 || i >= columns || j >= rows ? far : away[j * columns + i]!);
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) {
        const square = j * columns + i;
        away[square] =
          begins[square + 1]! > begins[square]!
            ? 0
            : Math.min(far, 1 + Math.min(at(i - 1, j), at(i - 1, j - 1), at(i, j - 1), at(i + 1, j - 1)));
      }
    for (let j = rows - 1; j >= 0; j--)
      for (let i = columns - 1; i >= 0; i--) {
        const square = j * columns + i;
        away[square] = Math.min(
          away[square]!,
          1 + Math.min(at(i + 1, j), at(i + 1, j + 1), at(i, j + 1), at(i - 1, j + 1)),
        );
      }
    return away;
  }
}
