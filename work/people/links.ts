import { afterCommit, db } from '#store/base/db.ts';
import * as store from '#store/people/people.ts';
import { quotas } from '#work/base/quotas.ts';
import { countUnder, limitKey } from './limits.ts';
import { sendLetter, type Letter } from './mail.ts';
import { digest, newSecret } from './people.ts';

const LETTERS = quotas.letters;
/** Hours a link may be used. */
const HOURS: Record<store.LinkKind, number> = { claim: 48, prove: 48, change: 48, recover: 1 };

/** Where a link in a letter leads: the address of this site, as its settings name it. */
export type Site = string;

/** Counts a letter for the address that asks and for the one it goes to, known or not. @throws TooMany */
export const countLetter = (to: string, address: string): Promise<void> =>
  countUnder(
    'letter',
    [
      { key: limitKey('address', address), max: LETTERS.perAddress },
      { key: limitKey('pair', `${address} ${to}`), max: LETTERS.perPair },
      { key: limitKey('letter', to), max: LETTERS.perEmail },
    ],
    LETTERS.minutes,
    `Too many tries. Wait ${LETTERS.minutes} minutes, then try again.`,
  );

type NewLink = Omit<store.LinkRow, 'name' | 'password_hash'> & Partial<store.LinkRow>;

/**
 * Makes a link and has it sent. Nobody waits for the letter: how long that takes would say whether there was one.
 * @param says the letter it goes with, where that is not named after the link
 */
export async function sendLink(site: Site, link: NewLink, says: Letter['kind'] = link.kind): Promise<void> {
  const token = newSecret();
  await store.dropLinks(db(), link.person_id, [link.kind]);
  await store.insertLink(db(), {
    name: null,
    password_hash: null,
    ...link,
    tokenHash: digest(token),
    hours: HOURS[link.kind],
  });
  await afterCommit(() =>
    sendLetter({ kind: says, hours: HOURS[link.kind], to: link.email, link: `${site}/link/${token}` }),
  );
}

/** Sends a link to an address that is to become an account's; where it is one already, its own person is told, and nobody else. */
export async function sendToNewAddress(site: Site, link: NewLink): Promise<void> {
  const taken = await store.credentialsOf(db(), link.email);
  if (taken) await sendLink(site, { person_id: taken.id, kind: 'recover', email: link.email }, 'taken');
  else await sendLink(site, link);
}

export const linkOf = (token: string) =>
  token.length >= 20 && token.length <= 100 ? store.openLink(db(), digest(token)) : Promise.resolve(undefined);

/** What a link is for, before it is used: looking at it changes nothing, since mail programs look as well. */
export async function seeLink(token: string): Promise<{ kind: store.LinkKind; email: string } | undefined> {
  const link = await linkOf(token);
  return link && { kind: link.kind, email: link.email };
}
