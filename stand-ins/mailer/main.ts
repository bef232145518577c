import { createServer } from 'node:http';
import { SMTPServer } from 'smtp-server';

/**
 * A simulated mail server: it takes letters over SMTP (RFC 5321) on loopback, shows them to whoever runs it, and delivers none. It says so
 * in its greeting. `GET /letters` on its second port answers what it got, latest first, for tests. It ends with whoever started it.
 *
 *   node --import tsx stand-ins/mailer/main.ts [--quiet]
 *
 * The first line on standard output names its ports as JSON.
 */
type Letter = { to: string[]; subject: string; text: string; at: string };
const letters: Letter[] = [];
/** Letters are short, and only the last ones are of interest. */
const MOST = { bytes: 200_000, letters: 500 };
const quiet = process.argv.includes('--quiet');

/** The text of a letter as nodemailer writes it: quoted-printable (RFC 2045, 6.7) or plain. */
function read(raw: string): { subject: string; text: string } {
  const cut = raw.indexOf('\r\n\r\n');
  const head = raw.slice(0, cut).replace(/\r\n[ \t]+/g, ' ');
  const body = raw.slice(cut + 4);
  const quoted = /^content-transfer-encoding:\s*quoted-printable/im.test(head);
  const plain = quoted
    ? Buffer.from(
        body
          .replace(/=\r\n/g, '')
          .replace(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16))),
        'latin1',
      ).toString('utf8')
    : body;
  return { subject: /^subject:\s*(.*)$/im.exec(head)?.[1] ?? '', text: plain.trim() };
}

const smtp = new SMTPServer({
  banner: 'simulated, delivers nothing',
  disabledCommands: ['AUTH', 'STARTTLS'],
  size: MOST.bytes,
  logger: false,
  onData(stream, session, done) {
    let raw = '';
    stream.setEncoding('utf8');
    stream.on('data', (chunk: string) => {
      if (raw.length < MOST.bytes) raw += chunk;
    });
    stream.on('end', () => {
      const letter = { to: session.envelope.rcptTo.map((r) => r.address), ...read(raw), at: new Date().toISOString() };
      letters.unshift(letter);
      letters.length = Math.min(letters.length, MOST.letters);
      if (!quiet)
        console.log(
          `\n  A letter to ${letter.to.join(', ')} (simulated: it leaves for nowhere)\n  ${letter.subject}\n${letter.text.replace(/^/gm, '    ')}\n`,
        );
      done();
    });
  },
});
smtp.on('error', () => undefined);

const shown = createServer((req, res) => {
  res.setHeader('Content-Type', 'application/json');
  res.end(JSON.stringify(req.url === '/letters' ? letters : { simulated: true, letters: '/letters' }));
});

const listening = (server: { listen: (port: number, host: string, then: () => void) => unknown }, port: () => number) =>
  new Promise<number>((done) => server.listen(0, '127.0.0.1', () => done(port())));
const portOf = (address: unknown): number => (address as { port: number }).port;
const ports = {
  smtp: await listening(smtp, () => portOf(smtp.server.address())),
  http: await listening(shown, () => portOf(shown.address())),
};
console.log(JSON.stringify(ports));
process.stdin.resume();
process.stdin.on('end', () => process.exit(0));
