/**
 * Where this server is reached from outside: VERSIPEL_ORIGIN where it is set (behind a proxy), else as the request says. Used in what
 * leaves the site: feeds, pictures, packs.
 */
export function originOf(request: Request): string {
  const set = process.env.VERSIPEL_ORIGIN;
  if (set && URL.canParse(set)) return new URL(set).origin;
  return new URL(request.url).origin;
}
