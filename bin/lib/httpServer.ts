import { existsSync, readdirSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import { extname, join } from 'node:path';
import { monitorEventLoopDelay } from 'node:perf_hooks';
import { pathToFileURL } from 'node:url';
import compression from 'compression';
import express from 'express';
import type { ServerBuild } from 'react-router';
import { quotas } from '#work/base/quotas.ts';

/** The first free port from `wanted` on, on loopback; the taken ones are named by `skipped`. */
export async function listenFrom(
  server: Server,
  wanted: number,
  host: string,
  skipped: (port: number) => void,
): Promise<number> {
  for (let port = wanted; port < wanted + 50; port++) {
    const free = await new Promise<boolean>((resolve, reject) => {
      const failed = (error: NodeJS.ErrnoException) => (error.code === 'EADDRINUSE' ? resolve(false) : reject(error));
      server.once('error', failed);
      server.listen(port, host, () => {
        server.off('error', failed);
        resolve(true);
      });
    });
    if (free) return port;
    skipped(port);
  }
  throw new Error(`No free port from ${wanted} to ${wanted + 49}.`);
}

/** No address holds more connections than its share, so that others find one. Behind a proxy all come from there: it counts them itself. */
function shareConnections(server: Server): void {
  const { all, ofAddress } = quotas.connections;
  server.maxConnections = all;
  if (Number(process.env.VERSIPEL_TRUST_PROXY ?? 0) > 0) return;
  const open = new Map<string, number>();
  server.on('connection', (socket) => {
    const from = socket.remoteAddress ?? 'unknown';
    const n = (open.get(from) ?? 0) + 1;
    if (n > ofAddress) return void socket.destroy();
    open.set(from, n);
    socket.once('close', () => {
      const left = open.get(from)! - 1;
      if (left > 0) open.set(from, left);
      else open.delete(from);
    });
  });
}

/** The built application behind a plain HTTP server. */
export async function makeServer(root: string): Promise<Server> {
  const entry = join(root, 'build/server/index.js');
  if (!existsSync(entry)) throw new Error('The application is not built: run bin/start.');
  const build = (await import(pathToFileURL(entry).href)) as ServerBuild;
  const app = express();
  app.disable('x-powered-by');
  const quiet = (res: express.Response) => {
    res.setHeader('X-Content-Type-Options', 'nosniff');
  };
  // Built files were packed once, at the build.
  const assets = join(root, 'build/client/assets');
  const packed = new Set(readdirSync(assets).filter((name) => name.endsWith('.br')));
  app.get('/assets/:file', (req, res, next) => {
    const { file } = req.params;
    if (!packed.has(`${file}.br`) || !req.acceptsEncodings('br')) return next();
    res.setHeader('Content-Encoding', 'br');
    res.setHeader('Vary', 'Accept-Encoding');
    res.type(extname(file));
    quiet(res);
    res.sendFile(join(assets, `${file}.br`), { immutable: true, maxAge: '1y' });
  });
  app.use(compression());
  // Built files bear a hash of their content in their name.
  app.use('/assets', express.static(assets, { immutable: true, maxAge: '1y', setHeaders: quiet }));
  app.use(express.static(join(root, 'build/client'), { maxAge: '1h', setHeaders: quiet }));
  // What a benchmark and the attack want to know of the process; nobody else is told.
  if (process.env.VERSIPEL_BENCH === '1') {
    const loop = monitorEventLoopDelay({ resolution: 5 });
    loop.enable();
    app.get('/bench', (_, res) => {
      global.gc?.();
      res.json({ loop99: loop.percentile(99) / 1e6, memory: process.memoryUsage() });
      loop.reset();
    });
  }
  const { front } = build.entry.module as unknown as { front: (build: ServerBuild) => RequestListener };
  app.use(front(build));
  // An address whose escapes are broken ends here, in a word: nothing of how this is built is told.
  app.use((error: Error, _req: express.Request, res: express.Response, next: express.NextFunction) => {
    if (res.headersSent) return next(error);
    res.status(400).type('text/plain').send('The address cannot be read.\n');
  });
  const server = createServer(
    // Browsers send a few hundred bytes a header; cookies and a long address have room.
    {
      maxHeaderSize: 16_384,
      headersTimeout: 10_000,
      requestTimeout: 120_000,
      keepAliveTimeout: 65_000,
      connectionsCheckingInterval: 2_000,
    },
    app,
  );
  shareConnections(server);
  // What is no HTTP is told so, and the connection ends.
  server.on('clientError', (error: NodeJS.ErrnoException, socket) => {
    // Browsers open connections ahead of need. One that stays silent is closed without a word: a word would be read as the answer to whatever
    // is asked on it next.
    if (error.code === 'ECONNRESET' || error.code === 'ERR_HTTP_REQUEST_TIMEOUT' || !socket.writable)
      return void socket.destroy();
    const status = error.code === 'HPE_HEADER_OVERFLOW' ? '431 Request Header Fields Too Large' : '400 Bad Request';
    socket.end(`HTTP/1.1 ${status}\r\nConnection: close\r\nContent-Length: 0\r\n\r\n`);
  });
  return server;
}
