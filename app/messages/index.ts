import { answer } from './answer.ts';
import { base } from './base.ts';
import { coupons } from './coupons.ts';
import { cuts } from './cuts.ts';
import { jobs } from './jobs.ts';
import { packs } from './packs.ts';
import { people } from './people.ts';
import { pressing } from './pressing.ts';
import { shelf } from './shelf.ts';
import { vinyls } from './vinyls.ts';
import { workshop } from './workshop.ts';

/**
 * The one catalogue of wording, a file a subject. Short, plain, second person, the crafter's own words; say what was kept and what to do next.
 */
export const words = {
  ...base,
  ...people,
  ...workshop,
  ...vinyls,
  ...coupons,
  ...cuts,
  ...shelf,
  ...packs,
  ...answer,
  ...jobs,
  ...pressing,
} as const;
