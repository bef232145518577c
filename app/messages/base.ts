import { plural } from './plural.ts';

/** Wording: the frame of every page, errors, keys. */
export const base = {
  product: 'Versipel',
  about: 'Plan the smallest test cut, grade it, know what to set.',
  title: (page: string) => `${page} · Versipel`,
  plural,
  places: { bench: 'Bench', jobs: 'Jobs', vinyls: 'Vinyls', coupons: 'Coupons', shelf: 'Shelf', workshop: 'Workshop' },
  frame: {
    skip: 'Skip to the page',
    onBench: 'On the bench',
    nothing: 'Nothing on the bench yet',
    blade: (angle: number) => `blade ${angle}°`,
    noBlade: 'no blade',
    age: (m: string, life: string) => `${m} m cut, lasts about ${life}`,
    find: 'Find a vinyl, brand, type or colour',
    guest: 'Guest',
    working: 'Working',
    keepWork: 'Keep your work: make an account',
    account: 'Account',
    help: 'Keys',
    enterBench: 'Full screen',
    leaveBench: 'Leave full screen',
  },
  /** A form that was filled in from something older. */
  seen: {
    stands: (now: string) => `Saved now: ${now || '–'}`,
    take: 'Show what is saved instead',
  },
  errors: {
    missing: {
      title: 'That is not here',
      what: 'It may have another address, or it belongs to somebody else. Nothing of yours was changed.',
    },
    often: { title: 'That was often', what: 'Wait a minute, then go on. Nothing was lost.' },
    refused: { title: 'That was refused', what: 'The request came from another site. Nothing was changed.' },
    stale: {
      title: 'This page was out of date',
      what: 'What it showed has changed meanwhile, so nothing was done. Load it again and look.',
    },
    wrong: {
      title: 'That cannot be read',
      what: 'Part of what was sent is not what this page takes. Nothing was changed.',
    },
    away: {
      title: 'Back in a moment',
      what: 'The database is being started or is busy. Nothing was lost: what you tapped is kept on this device and will be sent, and what you typed is still here. Try again in a few seconds.',
      page: 'The database is being started or is busy. What is saved is safe, and what you tapped is kept on this device and will be sent. This page looks again by itself.',
    },
    broken: {
      title: 'Something broke here',
      what: 'Your grades are kept on this device and will be sent. Load the page again in a moment.',
    },
    unknown: 'This page does not know what to do with that. Nothing was changed.',
    back: 'Back to the bench',
    form: 'Nothing was saved yet. Mend what is marked and try again; what you typed is still here.',
  },
  help: {
    title: 'Keys',
    rows: [
      ['/', 'find'],
      ['1 – 5', 'grade the cell: uncut, hangs, clean, scored, through'],
      ['arrows', 'from cell to cell'],
      ['Backspace', 'take the last grade back'],
      ['r', 'run the cell again, one pass more'],
      ['?', 'this list'],
    ],
    close: 'Close',
  },
} as const;
