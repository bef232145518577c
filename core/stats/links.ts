import { normalCdf, normalDensity } from './normal.ts';

export type LinkName = 'probit' | 'logit';

/** A link: the distribution function of the latent noise, and its density. */
export type Link = { cdf(z: number): number; density(z: number): number };

const logit: Link = {
  cdf: (z) => 1 / (1 + Math.exp(-z)),
  density: (z) => {
    const e = Math.exp(-Math.abs(z));
    return e / ((1 + e) * (1 + e));
  },
};

export const links: Record<LinkName, Link> = { probit: { cdf: normalCdf, density: normalDensity }, logit };

/** Chance that the latent noise lies between two bounds, taken from the tail that keeps the digits. */
export function between(link: Link, low: number, high: number): number {
  if (high <= low) return 0;
  return low > 0 ? link.cdf(-low) - link.cdf(-high) : link.cdf(high) - link.cdf(low);
}
