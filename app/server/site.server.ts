import type { IncomingMessage } from 'node:http';
import { networkInterfaces } from 'node:os';
import ipaddr from 'ipaddr.js';

/** What whoever runs Versipel says of the way in. Read once: it does not change while the server runs. */
const settings = () => (known ??= readSettings(process.env));
let known: Site | undefined;
/** Reads them at the start: what is wrong is said before anybody comes. @throws Error */
export const checkSettings = (): void => void settings();

type Site = { origin: URL | undefined; hops: number; hosts: ReadonlySet<string> };

/** Names of this very machine, which no other site's page can have taken. */
const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];

/**
 * VERSIPEL_ORIGIN names scheme and host under which visitors reach this server; VERSIPEL_HOSTS further hosts it answers for;
 * VERSIPEL_TRUST_PROXY the number of proxies in front of it whose word on a visitor's address counts.
 *
 * @throws Error that names the variable and what is wrong with it
 */
export function readSettings(env: NodeJS.ProcessEnv): Site {
  const { VERSIPEL_ORIGIN: origin, VERSIPEL_TRUST_PROXY: proxies, VERSIPEL_HOSTS: named } = env;
  const hops = Number(proxies ?? 0);
  if (!Number.isInteger(hops) || hops < 0 || hops > 5)
    throw new Error(`VERSIPEL_TRUST_PROXY is a number of proxies from 0 to 5, not "${proxies}"`);
  const hosts = new Set([...LOOPBACK, ...addressesOf(env.HOST), ...(named ?? '').toLowerCase().split(/[\s,]+/)]);
  if (!origin) {
    if (env.VERSIPEL_SMTP && !env.VERSIPEL_SIMULATED_MAIL)
      throw new Error(
        'VERSIPEL_SMTP sends letters with links: say in VERSIPEL_ORIGIN where they lead, as https://cuts.example',
      );
    return { origin: undefined, hops, hosts };
  }
  const url = URL.canParse(origin) ? new URL(origin) : undefined;
  if (!url || !/^https?:$/.test(url.protocol) || url.pathname !== '/' || url.search !== '')
    throw new Error(`VERSIPEL_ORIGIN is scheme and host alone, as https://cuts.example, not "${origin}"`);
  return { origin: url, hops, hosts: hosts.add(url.hostname) };
}

/** The addresses that belong to what the server listens on: one, or where it is all of them every one of this machine. */
function addressesOf(listening = '127.0.0.1'): string[] {
  if (!['0.0.0.0', '::', '[::]'].includes(listening)) return [listening.toLowerCase()];
  return Object.values(networkInterfaces())
    .flat()
    .map((i) => (i!.family === 'IPv6' ? `[${i!.address}]` : i!.address));
}

/**
 * Where this site is at home: links in letters lead there, whatever a request says of itself. VERSIPEL_ORIGIN, or the port that the launcher
 * listens on.
 */
export const homeAddress = (): string =>
  settings().origin?.origin ?? `http://localhost:${process.env.VERSIPEL_PORT ?? 4780}`;

/** Scheme and host under which this server is reached; as the request says where nobody set it. */
export function site(req: IncomingMessage): { scheme: string; host: string | undefined } {
  const { origin } = settings();
  if (origin) return { scheme: origin.protocol.slice(0, -1), host: origin.host };
  return { scheme: 'http', host: req.headers.host };
}

/** The host of a request; undefined where it names none that can be one. */
export function hostIn(req: IncomingMessage): string | undefined {
  const host = req.headers.host ?? '';
  const named = /^(?:[A-Za-z0-9.-]{1,253}|\[[0-9a-fA-F:.]{2,45}\])(?::(\d{1,5}))?$/.exec(host);
  return named && Number(named[1] ?? 1) >= 1 && Number(named[1] ?? 1) <= 65_535 ? site(req).host : undefined;
}

/**
 * Whether a request is meant for this site: by its own name, or one of those that are named. A page elsewhere that makes its name lead to this
 * machine is not (DNS rebinding).
 */
export const isOurs = (req: IncomingMessage): boolean =>
  settings().hosts.has((req.headers.host ?? '').toLowerCase().replace(/:\d+$/, ''));

/** Whether visitors come over TLS: then cookies go over nothing else. */
export const isSecure = (req: IncomingMessage): boolean => site(req).scheme === 'https';
export const secureSite = (): boolean => settings().origin?.protocol === 'https:';

/**
 * The visitor's address, for limits and turns only: as many steps from the end of X-Forwarded-For as there are trusted proxies. What
 * stands before is anybody's word. Of IPv6 the first 64 bits count: one household has all of the rest.
 */
export function addressIn(req: IncomingMessage): string {
  const { hops } = settings();
  const direct = req.socket.remoteAddress ?? 'unknown';
  const told = String(req.headers['x-forwarded-for'] ?? '')
    .split(',')
    .map((s) => s.trim());
  const at = hops > 0 ? (told[told.length - hops] ?? direct) : direct;
  return narrow(ipaddr.isValid(at) ? at : direct);
}

function narrow(address: string): string {
  if (!ipaddr.isValid(address)) return 'unknown';
  const ip = ipaddr.process(address);
  if (ip.kind() === 'ipv4') return ip.toString();
  return `${(ip as ipaddr.IPv6).parts
    .slice(0, 4)
    .map((p) => p.toString(16))
    .join(':')}::/64`;
}

/** Scheme and host of this site in what leaves it: feeds, pictures, packs, letters. The way in has put the right one into the request. */
export const originOf = (request: Request): string => new URL(request.url).origin;
