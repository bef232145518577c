import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

/**
 * Nodes and weights of the Gauss–Hermite rule for ∫ f(x) exp(−x²) dx, exact for polynomials up to degree 2n − 1.
 * Source: Golub & Welsch (1969), Calculation of Gauss quadrature rules, Math. Comp. 23, 221–230.
 *
 * @param n number of nodes, from 1
 */
export function gaussHermite(n: number): { x: number; w: number }[] {
  const jacobi = Matrix.zeros(n, n);
  for (let i = 1; i < n; i++) {
    jacobi.set(i, i - 1, Math.sqrt(i / 2));
    jacobi.set(i - 1, i, Math.sqrt(i / 2));
  }
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(jacobi, { assumeSymmetric: true });
  return realEigenvalues
    .map((x, i) => ({ x, w: Math.sqrt(Math.PI) * eigenvectorMatrix.get(0, i) ** 2 }))
    .sort((a, b) => a.x - b.x);
}
