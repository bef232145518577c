import { createTransport, type Transporter } from 'nodemailer';
import { log } from '#work/base/log.ts';

/** A letter of the product: its kind says what it is about. */
export type Letter = {
  kind: 'claim' | 'taken' | 'prove' | 'change' | 'changing' | 'recover';
  to: string;
  link: string;
  /** Hours its link can be used; 0 where that does not matter. */
  hours: number;
};

const PRODUCT = 'Versipel';
const until = (hours: number) => (hours === 1 ? 'within the hour' : `within ${hours} hours`);

/** Subject and text of each kind. */
const letterText: Record<Letter['kind'], (l: Letter) => { subject: string; text: string }> = {
  claim: (l) => ({
    subject: `Finish your account with ${PRODUCT}`,
    text: `Somebody, you most likely, asked for an account with this address. Open this ${until(l.hours)} to finish it:\n\n${l.link}\n\nWas it not you? Then do nothing: there is no account without this link.`,
  }),
  taken: (l) => ({
    subject: `You have an account with ${PRODUCT}`,
    text: `Somebody, you most likely, asked for an account with this address. There is one already. If you forgot its password, choose a new one ${until(l.hours)}:\n\n${l.link}\n\nWas it not you? Then do nothing: nothing was changed.`,
  }),
  prove: (l) => ({
    subject: `Is this your address? ${PRODUCT}`,
    text: `Open this ${until(l.hours)} to say that this address is yours:\n\n${l.link}\n\nWas it not you? Then do nothing.`,
  }),
  change: (l) => ({
    subject: `Your new address with ${PRODUCT}`,
    text: `Open this ${until(l.hours)} to use this address for your account from now on:\n\n${l.link}\n\nWas it not you? Then do nothing: nothing was changed.`,
  }),
  changing: (l) => ({
    subject: `Your address with ${PRODUCT} is to be changed`,
    text: `Somebody who knows your password asked to use another address for your account. Was it not you? Change your password now:\n\n${l.link}`,
  }),
  recover: (l) => ({
    subject: `A new password for ${PRODUCT}`,
    text: `Choose a new password ${until(l.hours)}:\n\n${l.link}\n\nWas it not you? Then do nothing: your password stays as it is.`,
  }),
};

let transport: { url: string; by: Transporter } | undefined;

/** How letters leave: by VERSIPEL_SMTP, else on the console of whoever runs the server. */
export const mailsTo = (): 'a mail server' | 'the console' =>
  process.env.VERSIPEL_SMTP ? 'a mail server' : 'the console';

/**
 * Sends a letter, in the background: whoever asked does not wait, so that how long it takes tells nothing. Without a mail server the
 * operator gets it on the console and hands the link on.
 */
export function sendLetter(letter: Letter): void {
  const { subject, text } = letterText[letter.kind](letter);
  const url = process.env.VERSIPEL_SMTP;
  if (!url) {
    console.log(
      `\n  A letter for ${letter.to} (there is no mail server: hand it on)\n  ${subject}\n  ${letter.link}\n`,
    );
    return;
  }
  if (transport?.url !== url)
    transport = {
      url,
      by: createTransport(url, { from: process.env.VERSIPEL_MAIL_FROM ?? `${PRODUCT} <no-reply@localhost>` }),
    };
  const { by } = transport;
  const attempt = (n: number): void => {
    by.sendMail({ to: letter.to, subject, text }).catch((error: Error) => {
      log.warn({ event: 'letter not sent', kind: letter.kind, attempt: n }, error.message);
      if (n < 4) setTimeout(() => attempt(n + 1), 5_000 * 4 ** n).unref();
    });
  };
  attempt(0);
}
