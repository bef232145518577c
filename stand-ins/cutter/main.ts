import { createServer as createHttp } from 'node:http';
import { createServer as createTcp, type Socket } from 'node:net';
import { parseArgs } from 'node:util';
import { Machine, type Fault } from './machine.ts';

// A simulated cutter. On one loopback port it takes HP-GL over raw TCP as a real one would; on another it shows, as a picture,
// what each cell looks like after weeding. It says that it is simulated. For tests (--truth) it also tells the true grade and
// takes faults to play. --film lays one film of so many µm on the mat, whatever the vinyl is called.
//
//   node --import tsx stand-ins/cutter/main.ts [--port 0] [--camera 0] [--seed 1] [--ms 600] [--film 95] [--truth]
//
// The first line on stdout is JSON with both ports.
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '0' },
    camera: { type: 'string', default: '0' },
    seed: { type: 'string', default: '1' },
    ms: { type: 'string', default: '600' },
    film: { type: 'string' },
    truth: { type: 'boolean', default: false },
  },
});
const NAME = 'VERSIPEL STAND-IN (SIMULATED)';
const LARGEST = 4_000_000;
const machine = new Machine(Number(values.seed), values.film === undefined ? undefined : Number(values.film));
const msPerCell = Number(values.ms);
let fault: Fault | undefined;
let inUse: Socket | undefined;

const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

const tcp = createTcp((socket) => {
  socket.setEncoding('latin1');
  socket.on('error', () => undefined);
  const other = inUse !== undefined && !inUse.destroyed;
  if (!other) inUse = socket;
  let buffer = '';
  let done = 0;
  let queue = Promise.resolve();
  const answer = (text: string) => !socket.destroyed && socket.write(`${text}\r`, 'latin1');

  /** Output instructions end a chunk: what stands before them is cut first, then they are answered. */
  const take = async () => {
    for (;;) {
      const match = /O([AEIS]);/.exec(buffer);
      if (!match) return;
      const chunk = buffer.slice(0, match.index);
      buffer = buffer.slice(match.index + match[0].length);
      if (match[1] === 'I') answer(NAME);
      else if (match[1] === 'S') {
        if (fault?.kind === 'busy') {
          fault = undefined;
          answer('0');
        } else answer(String(other ? 0 : 16 + (machine.error ? 32 : 0)));
      } else if (match[1] === 'E') {
        answer(String(machine.error));
        machine.error = 0;
      } else {
        const drops = fault?.kind === 'drop' && fault.after === done ? fault : undefined;
        await pause(msPerCell / 2);
        if (drops && !drops.cuts) {
          fault = undefined;
          socket.destroy();
          return;
        }
        if (fault?.kind === 'unknown') {
          fault = undefined;
          machine.error = 1;
        }
        try {
          machine.cut(chunk);
        } catch {
          machine.error = 1;
        }
        await pause(msPerCell / 2);
        if (drops) {
          fault = undefined;
          socket.destroy();
          return;
        }
        done++;
        answer(machine.position);
      }
    }
  };
  socket.on('data', (data: string) => {
    buffer += data;
    if (buffer.length > LARGEST) return socket.destroy();
    queue = queue.then(take);
  });
  socket.on('close', () => {
    if (inUse === socket) inUse = undefined;
  });
});

const camera = createHttp((request, response) => {
  const send = (status: number, type: string, body: string) => {
    response.writeHead(status, { 'Content-Type': type, 'Cache-Control': 'no-store' });
    response.end(body);
  };
  const path = /^\/cells\/([\w-]{1,64})\.(svg|json)$/.exec(request.url ?? '');
  if (request.method === 'GET' && path) {
    const [, id, kind] = path;
    if (kind === 'svg') {
      const svg = machine.picture(id!);
      return svg ? send(200, 'image/svg+xml', svg) : send(404, 'text/plain', 'never cut here');
    }
    const truth = values.truth ? machine.truth(id!) : undefined;
    return truth ? send(200, 'application/json', JSON.stringify(truth)) : send(404, 'text/plain', 'not told');
  }
  if (request.method === 'POST' && request.url === '/fault' && values.truth) {
    let body = '';
    request.on('data', (d: Buffer) => (body += d.toString()));
    request.on('end', () => {
      fault = JSON.parse(body) as Fault;
      send(204, 'text/plain', '');
    });
    return;
  }
  send(404, 'text/plain', `${NAME}: no such page`);
});

const listen = (
  server: { listen: (port: number, host: string, done: () => void) => unknown; address: () => unknown },
  port: string,
) =>
  new Promise<number>((done) =>
    server.listen(Number(port), '127.0.0.1', () => done((server.address() as { port: number }).port)),
  );
const ports = { port: await listen(tcp, values.port), camera: await listen(camera, values.camera), name: NAME };
console.log(JSON.stringify(ports));
for (const signal of ['SIGTERM', 'SIGINT'] as const) process.on(signal, () => process.exit(0));
// Whoever started it has gone: so does it.
process.stdin.on('end', () => process.exit(0)).resume();
