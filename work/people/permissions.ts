import type { PersonRow } from '#store/people/people.ts';

/** What a person can want to do. */
export type Verb =
  | 'look round' // pages that show only what is public, or one's own
  | 'begin' // make something of one's own; a stranger becomes a guest
  | 'deliver' // send what was tapped; only somebody known has anything to send
  | 'see'
  | 'change'
  | 'grade'
  | 'share' // publish under a name: somebody with an account
  | 'moderate' // hide, merge, settle reports: a steward
  | 'claim' // give a guest's work an account
  | 'sign in'
  | 'sign out';

/** Something with an owner. */
export type Thing = { owner: string; visibility?: string };

/**
 * The one place that says who may do what.
 * Strangers look round, begin and sign in. Everything with an owner is its owner's, but for what was made public or is
 * known by its link.
 */
export function can(
  person: (Pick<PersonRow, 'id' | 'email'> & { steward?: boolean }) | undefined,
  verb: Verb,
  thing?: Thing,
): boolean {
  switch (verb) {
    case 'look round':
    case 'begin':
    case 'sign in':
    case 'sign out':
      return true;
    case 'deliver':
      return person !== undefined;
    case 'share':
      return typeof person?.email === 'string';
    case 'moderate':
      return person?.steward === true && typeof person.email === 'string';
    case 'claim':
      return person?.email === null || person === undefined;
    case 'see':
      return !!thing && (thing.owner === person?.id || thing.visibility === 'public' || thing.visibility === 'link');
    case 'change':
    case 'grade':
      return !!thing && thing.owner === person?.id;
  }
}

/**
 * What a route asks for at its door, exported by it as `access`: the verb of its loader, that of its action, and what single acts ask for
 * beyond it. What it shows or changes behind the door is asked for thing by thing, in work.
 */
export type Access = { read?: Verb; write?: Verb; acts?: Record<string, Verb> };
