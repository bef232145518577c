import { createServer } from 'node:net';
import { parseArgs } from 'node:util';
import { Plate } from './plate.ts';

// A simulated press. On a loopback port it says every quarter of a second, a JSON line each, how hot its plate is; it takes the lines
// "set 152", "close" and "open" (docs/presses-on-a-line.md). It says that it is simulated.
//
//   node --import tsx stand-ins/press/main.ts [--port 0] [--speed 1] [--warm 22]
//
// The first line on stdout is JSON with its port.
const { values } = parseArgs({
  options: {
    port: { type: 'string', default: '0' },
    speed: { type: 'string', default: '1' },
    warm: { type: 'string' },
  },
});
const speed = Number(values.speed);
const plate = new Plate();
if (values.warm !== undefined) plate.celsius = plate.set = Number(values.warm);
let last = Date.now();
const goOn = () => {
  const now = Date.now();
  plate.run(Math.min(60, ((now - last) / 1000) * speed));
  last = now;
};
const tenth = (x: number) => Math.round(x * 10) / 10;
const said = () => {
  goOn();
  return `${JSON.stringify({ format: 'versipel-plate/1', celsius: tenth(plate.celsius), set: plate.set, closed: plate.closed, corner: tenth(plate.corner), simulated: true })}\n`;
};

const LONGEST = 200;
const server = createServer((socket) => {
  socket.on('error', () => undefined);
  socket.write(said());
  const timer = setInterval(() => !socket.destroyed && socket.write(said()), 250);
  socket.on('close', () => clearInterval(timer));
  let text = '';
  socket.setEncoding('latin1');
  socket.on('data', (more: string) => {
    text += more;
    if (text.length > LONGEST) return void socket.destroy();
    for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n')) {
      const [word, figure] = text.slice(0, end).trim().split(' ');
      text = text.slice(end + 1);
      goOn();
      const degrees = Number(figure);
      if (word === 'set' && degrees >= 20 && degrees <= 260) plate.set = degrees;
      else if (word === 'close') plate.close();
      else if (word === 'open') plate.open();
    }
  });
});
server.listen(Number(values.port), '127.0.0.1', () => {
  const { port } = server.address() as { port: number };
  console.log(JSON.stringify({ port }));
});
// It ends with whoever started it.
process.stdin.on('end', () => process.exit(0)).resume();
process.on('SIGTERM', () => process.exit(0));
