/**
 * Symmetric positive definite matrices as one flat array, row by row, of which the lower triangle counts. A general library keeps an
 * array a row and visits columns; for the thousand unknowns of a shelf that is several times slower (decision 0016).
 */

import { PRODUCTS } from './products.ts';

/** Tiles of this many rows: what is at work stays near the processor. */
const TILE = 8;

type Products = (
  ...at: [
    c: number,
    a: number,
    b: number,
    n: number,
    sign: number,
    i0: number,
    i1: number,
    j0: number,
    j1: number,
    k0: number,
    k1: number,
  ]
) => void;
type Kernel = { add: Products; memory: { buffer: ArrayBuffer; grow(pages: number): number } };
/** What of WebAssembly is used here; browsers and Node have the same. */
declare const WebAssembly: {
  Module: new (code: Uint8Array) => object;
  Instance: new (module: object) => { exports: unknown };
};
let kernel: Kernel | undefined;

/** Room for so many numbers in the memory the products are formed in. */
function workspace(numbers: number): { view: Float64Array; add: Products } {
  if (!kernel) {
    const code = Uint8Array.from(atob(PRODUCTS), (c) => c.charCodeAt(0));
    kernel = new WebAssembly.Instance(new WebAssembly.Module(code)).exports as Kernel;
  }
  const missing = numbers * 8 - kernel.memory.buffer.byteLength;
  if (missing > 0) kernel.memory.grow(Math.ceil(missing / 65_536));
  return { view: new Float64Array(kernel.memory.buffer, 0, numbers), add: kernel.add };
}

/**
 * c[i][j] += sign · Σk a[i][k]·b[j][k] for rows i of a, rows j of b and terms k; matrices by where they begin. Four rows by two with two
 * numbers at a time in machine code; what is left over here.
 */
function addProducts(
  { view, add }: { view: Float64Array; add: Products },
  [c, a, b]: readonly [number, number, number],
  n: number,
  sign: number,
  [i0, i1]: readonly [number, number],
  [j0, j1]: readonly [number, number],
  [k0, k1]: readonly [number, number],
): void {
  if (k1 <= k0) return;
  add(c * 8, a * 8, b * 8, n, sign, i0, i1, j0, j1, k0, k1);
  const iDone = i0 + 4 * Math.floor((i1 - i0) / 4);
  const jDone = j0 + 2 * Math.floor((j1 - j0) / 2);
  for (let i = i0; i < i1; i++)
    for (let j = i < iDone ? jDone : j0; j < j1; j++) {
      const [ri, rj] = [a + i * n, b + j * n];
      let sum = 0;
      for (let k = k0; k < k1; k++) sum += view[ri + k]! * view[rj + k]!;
      view[c + i * n + j]! += sign * sum;
    }
}

/**
 * Cholesky factor L with A = L·L′, in place of the lower triangle.
 * Source: Golub & Van Loan (2013), Matrix Computations, 4.2, by blocks, so that all inner loops run along memory.
 *
 * @param a n × n, row by row; its lower triangle becomes L, what lies above is not defined afterwards
 * @returns log |A|, or NaN where A is not positive definite
 */
export function cholesky(a: Float64Array, n: number): number {
  // A few unknowns are not worth the way to the products.
  const work = n > TILE ? workspace(n * n) : undefined;
  const m = work?.view ?? a;
  if (work) m.set(a);
  let logDet = 0;
  for (let j0 = 0; j0 < n; j0 += TILE) {
    const j1 = Math.min(n, j0 + TILE);
    if (work) addProducts(work, [0, 0, 0], n, -1, [j0, n], [j0, j1], [0, j0]);
    for (let i = j0; i < n; i++) {
      const ri = i * n;
      for (let j = j0; j < j1 && j <= i; j++) {
        const rj = j * n;
        let sum = m[ri + j]!;
        for (let k = j0; k < j; k++) sum -= m[ri + k]! * m[rj + k]!;
        if (i === j) {
          if (!(sum > 0)) return NaN;
          m[ri + j] = Math.sqrt(sum);
          logDet += Math.log(sum);
        } else m[ri + j] = sum / m[rj + j]!;
      }
    }
  }
  if (work) a.set(m);
  return logDet;
}

/** Solves (L·L′)·x = b in place. */
export function solve(l: Float64Array, n: number, x: Float64Array): void {
  for (let i = 0; i < n; i++) {
    // Four sums, so that none waits for the one before.
    const row = i * n;
    let [s0, s1, s2, s3] = [x[i]!, 0, 0, 0];
    let k = 0;
    for (; k + 3 < i; k += 4) {
      s0 -= l[row + k]! * x[k]!;
      s1 -= l[row + k + 1]! * x[k + 1]!;
      s2 -= l[row + k + 2]! * x[k + 2]!;
      s3 -= l[row + k + 3]! * x[k + 3]!;
    }
    for (; k < i; k++) s0 -= l[row + k]! * x[k]!;
    x[i] = (s0 + s1 + (s2 + s3)) / l[row + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    const row = i * n;
    const v = (x[i] = x[i]! / l[row + i]!);
    for (let k = 0; k < i; k++) x[k]! -= l[row + k]! * v;
  }
}

/**
 * The inverse of L·L′, both triangles.
 * Source: L⁻¹, then L⁻ᵀ·L⁻¹ (Golub & Van Loan 2013, 4.2), by blocks; L⁻¹ is kept transposed so that products run along memory.
 *
 * @param l n × n, row by row; only its lower triangle is read
 */
export function inverse(l: Float64Array, n: number): Float64Array {
  // Three matrices: L, then u whose row j holds column j of L⁻¹, then the inverse.
  const [u, inv] = [n * n, 2 * n * n];
  const work = workspace(3 * n * n);
  const m = work.view;
  m.set(l);
  m.fill(0, u);
  for (let i0 = 0; i0 < n; i0 += TILE) {
    const i1 = Math.min(n, i0 + TILE);
    for (let j = i0; j < i1; j++) m[u + j * n + j] = 1;
    for (let j0 = 0; j0 <= i0; j0 += TILE) {
      const j1 = Math.min(n, j0 + TILE);
      addProducts(work, [u, u, 0], n, -1, [j0, j1], [i0, i1], [j0, i0]);
      for (let j = j0; j < j1; j++) {
        const from = Math.max(i0, j);
        const row = u + j * n;
        for (let i = from; i < i1; i++) {
          let sum = m[row + i]!;
          for (let k = from; k < i; k++) sum -= m[i * n + k]! * m[row + k]!;
          m[row + i] = sum / m[i * n + i]!;
        }
      }
    }
  }
  for (let i0 = 0; i0 < n; i0 += TILE)
    for (let j0 = 0; j0 <= i0; j0 += TILE)
      addProducts(work, [inv, u, u], n, 1, [i0, Math.min(n, i0 + TILE)], [j0, Math.min(n, j0 + TILE)], [i0, n]);
  const out = m.slice(inv);
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) out[j * n + i] = out[i * n + j]!;
  return out;
}

/**
 * A·x for several x, in place. With an inverse in hand this solves for many right-hand sides while the matrix, which may be large, is
 * gone through once.
 *
 * @param a symmetric, n × n, row by row
 * @param xs of each the first n numbers count
 */
export function multiply(a: Float64Array, n: number, xs: readonly Float64Array[]): void {
  const m = xs.length;
  // Three matrices: what is multiplied, row by row; A; the products.
  const [from, to] = [m * n, (m + n) * n];
  const work = workspace((2 * m + n) * n);
  xs.forEach((x, i) => work.view.set(x.subarray(0, n), i * n));
  work.view.set(a, from);
  work.view.fill(0, to);
  for (let j = 0; j < n; j += TILE) addProducts(work, [to, 0, from], n, 1, [0, m], [j, Math.min(n, j + TILE)], [0, n]);
  xs.forEach((x, i) => x.set(work.view.subarray(to + i * n, to + (i + 1) * n)));
}

/** A·x in place, for an x of which most is 0. @param a symmetric, n × n, row by row */
export function multiplySparse(a: Float64Array, n: number, x: Float64Array): void {
  const there: number[] = [];
  for (let j = 0; j < n; j++) if (x[j] !== 0) there.push(j);
  const values = there.map((j) => x[j]!);
  x.fill(0, 0, n);
  there.forEach((j, k) => {
    const v = values[k]!;
    const row = j * n;
    for (let i = 0; i < n; i++) x[i]! += v * a[row + i]!;
  });
}

export function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
