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
  | 'keep order' // hide, merge, settle reports: a steward
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
    case 'keep order':
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

/** What each route asks for at its door. What it shows or changes behind the door is asked for thing by thing, in work. */
export const routeRules = {
  'routes/bench/route': { read: 'look round' },
  'routes/find/route': { read: 'look round' },
  'routes/vinyls/route': { read: 'look round' },
  'routes/vinyls.new/route': { read: 'look round', write: 'begin' },
  'routes/vinyls.$vinyl/route': { read: 'look round', write: 'begin' },
  'routes/vinyls.alike/route': { read: 'look round' },
  'routes/vinyls.table/route': { read: 'look round' },
  'routes/vinyls.table.file/route': { read: 'look round' },
  'routes/vinyls.import/route': { read: 'look round', write: 'begin' },
  'routes/vinyls.import.$import/route': { read: 'look round', write: 'begin' },
  'routes/vinyls.$vinyl.about/route': { read: 'look round', write: 'begin' },
  'routes/vinyls.$vinyl.code/route': { read: 'look round' },
  'routes/vinyls.$vinyl.mark/route': { read: 'look round' },
  'routes/types.new/route': { read: 'look round', write: 'begin' },
  'routes/blanks/route': { read: 'look round' },
  'routes/chart/route': { read: 'look round' },
  'routes/chart.file/route': { read: 'look round' },
  'routes/stock/route': { read: 'look round', write: 'begin' },
  'routes/stock.labels/route': { read: 'look round' },
  'routes/stock.$piece/route': { read: 'look round', write: 'begin' },
  'routes/s.$code/route': { read: 'look round' },
  'routes/workshop.cutters.$cutter.scale/route': { read: 'look round', write: 'begin' },
  'routes/workshop.models.new/route': { read: 'look round', write: 'begin' },
  'routes/workshop.models.$model/route': { read: 'look round' },
  'routes/floor/route': { read: 'look round' },
  'routes/coupons/route': { read: 'look round' },
  'routes/coupons.new/route': { read: 'look round', write: 'begin' },
  'routes/coupons.$coupon/route': { read: 'look round', write: 'begin' },
  'routes/coupons.$coupon.run/route': { read: 'look round', write: 'begin' },
  'routes/coupons.$coupon.grade/route': { read: 'look round' },
  'routes/coupons.$coupon.result/route': { read: 'look round', write: 'begin' },
  'routes/coupons.$coupon.file/route': { read: 'look round' },
  'routes/coupons.$coupon.picture/route': { read: 'look round' },
  'routes/cuts.$cut/route': { read: 'look round', write: 'begin' },
  'routes/workshop/route': { read: 'look round', write: 'begin' },
  'routes/workshop.cutters.new/route': { read: 'look round', write: 'begin' },
  'routes/shelf/route': { read: 'look round' },
  'routes/cards.new/route': { read: 'look round', write: 'begin' },
  'routes/cards.$card/route': { read: 'look round', write: 'begin' },
  'routes/cards.$card.pack/route': { read: 'look round' },
  'routes/packs/route': { read: 'look round', write: 'begin' },
  'routes/packs.shelf/route': { read: 'look round' },
  'routes/packs.table/route': { read: 'look round' },
  'routes/packs.schema/route': { read: 'look round' },
  'routes/packs.$pack/route': { read: 'look round', write: 'begin' },
  'routes/inbox/route': { read: 'look round', write: 'begin' },
  'routes/order/route': { read: 'look round', write: 'begin' },
  'routes/cards.$card.picture/route': { read: 'look round' },
  'routes/feed.vinyls.$vinyl/route': { read: 'look round' },
  'routes/feed/route': { read: 'look round' },
  'routes/workshop.cutters.$cutter.others/route': { read: 'look round' },
  'routes/account/route': { read: 'look round', write: 'begin' },
  'routes/link/route': { read: 'look round', write: 'sign in' },
  'routes/recover/route': { read: 'look round', write: 'sign in' },
  'routes/sign-in/route': { read: 'look round', write: 'sign in' },
  'routes/sign-out/route': { write: 'sign out' },
  'routes/swatches/route': { read: 'look round' },
  'routes/units/route': { write: 'begin' },
  'routes/api.events/route': { write: 'deliver' },
  'routes/api.openapi/route': { read: 'look round' },
  'routes/api.v1.cards/route': { read: 'look round' },
  'routes/api.v1.cards.$card/route': { read: 'look round' },
  'routes/api.v1.vinyls/route': { read: 'look round' },
  'routes/api.v1.vinyls.$vinyl/route': { read: 'look round' },
  'routes/health/route': { read: 'look round' },
  'routes/not-found/route': { read: 'look round' },
} as const satisfies Record<string, { read?: Verb; write?: Verb }>;

export type RouteId = keyof typeof routeRules;
