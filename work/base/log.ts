import pino, { type Logger } from 'pino';
import { whoAsks } from './asking.ts';

/**
 * What happens on the server, one JSON object a line (pino), to standard error. The security log is part of it: `event` names what was
 * done (sign-in, refusal, a change of authority), `account` the id of who it was about. No names, addresses or mail addresses stand in it.
 */
const shared = globalThis as { versipelLog?: Logger };
export const log: Logger = (shared.versipelLog ??= pino(
  { level: process.env.VERSIPEL_LOG ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'), base: undefined },
  pino.destination({ fd: 2, sync: true }),
));

/** Events of the security log. */
export type Happened =
  | 'sign-in'
  | 'sign-in refused'
  | 'sign-out'
  | 'account claimed'
  | 'account deleted'
  | 'address proven'
  | 'password changed'
  | 'password forgotten'
  | 'address changed'
  | 'sessions ended'
  | 'steward made'
  | 'steward ended'
  | 'refused'
  | 'restored';

/** Notes something for the security log. @param account the id of the account it is about, where there is one */
export function happened(event: Happened, account?: string, more: Record<string, string | number> = {}): void {
  // The demo and tests make their people without anybody asking.
  if (whoAsks()) log.info({ event, ...(account ? { account } : {}), ...more });
}
