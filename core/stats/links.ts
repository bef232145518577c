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
