/* eslint-disable no-loss-of-precision -- coefficients stand as they were published */
/** 1/√(2π). */
const INV_SQRT_2PI = 0.398942280401432677939946;

/** Density of the standard normal distribution at z. */
export function normalDensity(z: number): number {
  return INV_SQRT_2PI * Math.exp(-0.5 * z * z);
}

/**
 * Φ(z), the standard normal distribution function, to about 15 digits.
 *
 * Source: W. J. Cody (1969), Rational Chebyshev approximations for the error function, Math. Comp. 23, 631–637,
 * in the three-range form for Φ itself.
 *
 * @param z any number; ±Infinity give 1 and 0
 * @example normalCdf(1.959963984540054) // 0.975
 * @example normalCdf(1.96) // 0.9750
 */
export function normalCdf(z: number): number {
  const y = Math.abs(z);
  // Written out without loops: fits evaluate this a million times.
  if (y <= 0.67448975) {
    const s = z * z;
    const num =
      (((0.065682337918207449113 * s + 2.2352520354606839287) * s + 161.02823106855587881) * s +
        1067.6894854603709582) *
        s +
      18154.981253343561249;
    const den =
      (((s + 47.20258190468824187) * s + 976.09855173777669322) * s + 10260.932208618978205) * s +
      45507.789335026729956;
    return 0.5 + (z * num) / den;
  }
  if (y > 38) return z > 0 ? 1 : 0;
  let tail: number;
  if (y <= 5.656854249492380581) {
    const num =
      (((((((1.0765576773720192317e-8 * y + 0.39894151208813466764) * y + 8.8831497943883759412) * y +
        93.506656132177855979) *
        y +
        597.27027639480026226) *
        y +
        2494.5375852903726711) *
        y +
        6848.1904505362823326) *
        y +
        11602.651437647350124) *
        y +
      9842.7148383839780218;
    const den =
      (((((((y + 22.266688044328115691) * y + 235.38790178262499861) * y + 1519.377599407554805) * y +
        6485.558298266760755) *
        y +
        18615.571640885098091) *
        y +
        34900.952721145977266) *
        y +
        38912.003286093271411) *
        y +
      19685.429676859990727;
    tail = num / den;
  } else {
    const s = 1 / (z * z);
    const num =
      ((((0.02307344176494017303 * s + 0.21589853405795699) * s + 0.1274011611602473639) * s + 0.022235277870649807) *
        s +
        0.001421619193227893466) *
        s +
      2.9112874951168792e-5;
    const den =
      ((((s + 1.28426009614491121) * s + 0.468238212480865118) * s + 0.0659881378689285515) * s +
        0.00378239633202758244) *
        s +
      7.29751555083966205e-5;
    tail = (INV_SQRT_2PI - (s * num) / den) / y;
  }
  // exp(-y²/2) in two parts keeps the digits that squaring a large y would lose.
  const coarse = Math.trunc(y * 16) / 16;
  const rest = (y - coarse) * (y + coarse);
  tail *= Math.exp(-coarse * coarse * 0.5) * Math.exp(-rest * 0.5);
  return z > 0 ? 1 - tail : tail;
}

/** Φ(high) − Φ(low) without cancellation in either tail; 0 when high ≤ low. */
export function normalBetween(low: number, high: number): number {
  if (high <= low) return 0;
  return low > 0 ? normalCdf(-low) - normalCdf(-high) : normalCdf(high) - normalCdf(low);
}

function horner(coefficients: readonly number[], x: number): number {
  let sum = 0;
  for (let i = coefficients.length - 1; i >= 0; i--) sum = sum * x + coefficients[i]!;
  return sum;
}

const QA = [
  3.387132872796366608, 1.3314166789178437745e2, 1.9715909503065514427e3, 1.3731693765509461125e4,
  4.5921953931549871457e4, 6.7265770927008700853e4, 3.3430575583588128105e4, 2.5090809287301226727e3,
];
const QB = [
  1, 4.2313330701600911252e1, 6.871870074920579083e2, 5.3941960214247511077e3, 2.1213794301586595867e4,
  3.930789580009271061e4, 2.8729085735721942674e4, 5.226495278852854561e3,
];
const QC = [
  1.42343711074968357734, 4.6303378461565452959, 5.7694972214606914055, 3.64784832476320460504, 1.27045825245236838258,
  2.4178072517745061177e-1, 2.27238449892691845833e-2, 7.7454501427834140764e-4,
];
const QD = [
  1, 2.05319162663775882187, 1.6763848301838038494, 6.8976733498510000455e-1, 1.4810397642748007459e-1,
  1.51986665636164571966e-2, 5.475938084995344946e-4, 1.05075007164441684324e-9,
];
const QE = [
  6.6579046435011037772, 5.4637849111641143699, 1.7848265399172913358, 2.9656057182850489123e-1,
  2.6532189526576123093e-2, 1.2426609473880784386e-3, 2.71155556874348757815e-5, 2.01033439929228813265e-7,
];
const QF = [
  1, 5.9983220655588793769e-1, 1.3692988092273580531e-1, 1.48753612908506148525e-2, 7.868691311456132591e-4,
  1.8463183175100546818e-5, 1.4215117583164458887e-7, 2.04426310338993978564e-15,
];

/**
 * Φ⁻¹(p), the standard normal quantile.
 *
 * Source: M. J. Wichura (1988), Algorithm AS 241 (PPND16), Applied Statistics 37, 477–484.
 *
 * @param p a probability; 0 and 1 give ∓Infinity
 * @throws RangeError when p is not in [0, 1]
 * @example normalQuantile(0.975) // 1.95996
 */
export function normalQuantile(p: number): number {
  if (!(p >= 0 && p <= 1)) throw new RangeError(`invalid probability; not in [0, 1]: ${p}`);
  if (p === 0) return -Infinity;
  if (p === 1) return Infinity;
  const q = p - 0.5;
  if (Math.abs(q) <= 0.425) {
    const r = 0.180625 - q * q;
    return (q * horner(QA, r)) / horner(QB, r);
  }
  let r = Math.sqrt(-Math.log(q < 0 ? p : 1 - p));
  let value: number;
  if (r <= 5) {
    r -= 1.6;
    value = horner(QC, r) / horner(QD, r);
  } else {
    r -= 5;
    value = horner(QE, r) / horner(QF, r);
  }
  return q < 0 ? -value : value;
}
