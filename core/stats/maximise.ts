import { CholeskyDecomposition, EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { checked } from './options.ts';

export const maximiseDefaults = {
  /** Newton steps before giving up. */
  maxIterations: 60,
  /** Stop when the largest entry of the gradient, times its scale, is below this. */
  tolerance: 1e-9,
};

/** A function to maximise: returns its value at x and writes the gradient into `gradient`. */
export type Objective = (x: Float64Array, gradient: Float64Array) => number;

export type Maximum = {
  x: Float64Array;
  value: number;
  /** Minus the matrix of second derivatives at x (the observed information), symmetric. */
  information: Matrix;
  converged: boolean;
  iterations: number;
};

/** Minus the second derivatives by central differences of the gradient, symmetrised. */
function informationAt(objective: Objective, x: Float64Array): Matrix {
  const n = x.length;
  const info = Matrix.zeros(n, n);
  const moved = Float64Array.from(x);
  const up = new Float64Array(n);
  const down = new Float64Array(n);
  for (let j = 0; j < n; j++) {
    const h = 1e-5 * Math.max(1, Math.abs(x[j]!));
    moved[j] = x[j]! + h;
    objective(moved, up);
    moved[j] = x[j]! - h;
    objective(moved, down);
    moved[j] = x[j]!;
    for (let i = 0; i < n; i++) info.set(i, j, -(up[i]! - down[i]!) / (2 * h));
  }
  for (let i = 0; i < n; i++)
    for (let j = 0; j < i; j++) {
      const mean = (info.get(i, j) + info.get(j, i)) / 2;
      info.set(i, j, mean);
      info.set(j, i, mean);
    }
  return info;
}

/** Solves information · step = gradient; where the information is not positive, its eigenvalues are lifted. */
function newtonStep(info: Matrix, gradient: Float64Array): number[] {
  const g = Matrix.columnVector(Array.from(gradient));
  const cholesky = new CholeskyDecomposition(info);
  if (cholesky.isPositiveDefinite()) return cholesky.solve(g).to1DArray();
  const eigen = new EigenvalueDecomposition(info, { assumeSymmetric: true });
  const top = Math.max(1e-12, ...eigen.realEigenvalues.map(Math.abs));
  const v = eigen.eigenvectorMatrix;
  const projected = v.transpose().mmul(g);
  eigen.realEigenvalues.forEach((value, i) => {
    projected.set(i, 0, projected.get(i, 0) / Math.max(Math.abs(value), top * 1e-8));
  });
  return v.mmul(projected).to1DArray();
}

/**
 * Maximum of a smooth function by Newton's method with backtracking.
 *
 * Source: Nocedal & Wright (2006), Numerical Optimization, ch. 3 (Newton with eigenvalue modification).
 *
 * @param objective value and gradient
 * @param start where to begin; not changed
 */
export function maximise(
  objective: Objective,
  start: Float64Array,
  options: Partial<typeof maximiseDefaults> = {},
): Maximum {
  const { maxIterations, tolerance } = checked(
    { ...maximiseDefaults, ...options },
    { maxIterations: { from: 1, to: 10_000, whole: true }, tolerance: { from: 0, to: 1, open: 'from' } },
  );
  const n = start.length;
  let x = Float64Array.from(start);
  let gradient = new Float64Array(n);
  let value = objective(x, gradient);
  let info = informationAt(objective, x);
  let converged = false;
  let iterations = 0;
  for (; iterations < maxIterations; iterations++) {
    const step = newtonStep(info, gradient);
    const slope = step.reduce((sum, s, i) => sum + s * gradient[i]!, 0);
    // Half the Newton decrement is the gain still to be had.
    if (Math.abs(slope) < tolerance * (1 + Math.abs(value))) {
      converged = true;
      break;
    }
    let size = 1;
    let moved = false;
    for (let tries = 0; tries < 40; tries++, size /= 2) {
      const next = x.map((xi, i) => xi + size * step[i]!);
      const nextGradient = new Float64Array(n);
      const nextValue = objective(next, nextGradient);
      if (Number.isFinite(nextValue) && nextValue >= value + 1e-4 * size * slope) {
        x = next;
        value = nextValue;
        gradient = nextGradient;
        moved = true;
        break;
      }
    }
    if (!moved) {
      // No uphill step is left at this precision.
      converged = Math.abs(slope) < 1e-6 * (1 + Math.abs(value));
      break;
    }
    info = informationAt(objective, x);
  }
  return { x, value, information: info, converged, iterations };
}
