import { KnownByName } from '#store/base/db.ts';

export { BadValue, Unavailable } from '#store/base/db.ts';

/** What was asked for is not there, or not for this person: both look the same from outside. */
export class NotFound extends Error {}

/** What was typed cannot be taken. `fields` says what and where; nothing was changed. */
export class Invalid extends Error {
  readonly fields: Record<string, string>;
  constructor(fields: Record<string, string>) {
    super(Object.values(fields).join(' '));
    this.fields = fields;
  }
}

/** Too often. */
export class TooMany extends Error {
  readonly minutes: number;
  constructor(message: string, minutes: number) {
    super(message);
    this.minutes = minutes;
  }
}

/** The page that asks is older than what it speaks of: nothing was changed, and the page says so. */
export class Stale extends Error {}

/** There is more to do than can be done now, or this took too long: the same request may be sent again. */
export class Busy extends KnownByName {
  static override readonly kind = 'Busy';
}
