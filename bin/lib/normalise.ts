/**
 * What may differ between two recordings of one page although nothing changed: what is made anew for every answer, and the time. Everything else
 * is compared letter by letter, so that a changed number is seen. Each rule says why.
 */
export const rules: { what: string; why: string; find: RegExp; put: string }[] = [
  {
    what: 'scripts',
    why: 'they hold the data of the page once more, in an order of their own; what is shown of it is in the page',
    find: /<script\b[^>]*>[\s\S]*?<\/script>/g,
    put: '',
  },
  { what: 'nonce', why: 'drawn for every answer', find: / nonce="[^"]*"/g, put: '' },
  {
    what: 'once',
    why: 'the key of a form, drawn for every answer',
    find: /(name="once" value=")[^"]*"/g,
    put: '$1"',
  },
  {
    what: 'session',
    why: 'the recording signs in anew each time',
    find: /(name="session" value=")[^"]*"/g,
    put: '$1"',
  },
  {
    what: 'assets',
    why: 'a file of the application bears a hash of its text in its name',
    find: /\/assets\/([\w.$-]+?)-[\w-]{8}\.(js|css|woff2?)/g,
    put: '/assets/$1.$2',
  },
  {
    what: 'styles',
    why: 'a class that is made of a style bears a hash of its text; the styles are looked at in pictures',
    find: /<style\b[^>]*>[\s\S]*?<\/style>/g,
    put: '',
  },
  {
    what: 'style names',
    why: 'as the styles',
    find: /\b(vp|css)-[a-z0-9]{5,8}(?=[ "-])/g,
    put: '$1-',
  },
  {
    what: 'preloads',
    why: 'which files a page is made of is measured by its weight',
    find: /<link rel="(modulepreload|stylesheet)"[^>]*>/g,
    put: '',
  },
  {
    what: 'ids of fields',
    why: 'React counts them by where a part stands in the tree',
    find: /_[Rr]_[a-z0-9]+_(-[\w-]+)?/g,
    put: 'ID$1',
  },
  {
    what: 'now',
    why: 'a moment of this very minute, as an ISO time',
    find: /\b20\d\d-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z/g,
    put: 'TIME',
  },
  {
    what: 'fresh ids',
    why: 'made for the answer: their first digits are the time it was made (RFC 9562, version 7)',
    find: /\b[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}\b/g,
    put: 'ID',
  },
];

/** How long before a recording a time counts as its own, ms. */
const LATELY = 2 * 60_000;

/**
 * A page without what may differ. Times and ids of version 7 go only where they are of the two minutes about `now`: older ones are
 * somebody's data.
 * @param now when it was recorded, ms
 */
export function normalise(text: string, now: number): string {
  const fresh = (ms: number) => ms > now - LATELY && ms < now + LATELY;
  let left = text;
  for (const { what, find, put } of rules) {
    if (what === 'now') left = left.replace(find, (time) => (fresh(Date.parse(time)) ? put : time));
    else if (what === 'fresh ids')
      left = left.replace(find, (id) => (fresh(parseInt(id.replace('-', '').slice(0, 12), 16)) ? put : id));
    else left = left.replace(find, put);
  }
  return left;
}
