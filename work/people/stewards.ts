import { db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';

/**
 * The addresses of those who keep order on the shelf: VERSIPEL_STEWARDS, named by whoever runs the server. The list is the truth and is
 * looked up each time: an address counts once it is proven, and no longer once it is taken off.
 */
export const stewardList = (): string[] =>
  (process.env.VERSIPEL_STEWARDS ?? '')
    .split(',')
    .map((e) => e.trim().toLowerCase())
    .filter(Boolean);

/** Whether somebody keeps order. */
export const isSteward = (person: Pick<store.PersonRow, 'email' | 'proven'>): boolean =>
  person.proven === true && person.email !== null && stewardList().includes(person.email.toLowerCase());

/** Everybody who keeps order now. */
export const stewards = () => store.provenOf(db(), stewardList());
