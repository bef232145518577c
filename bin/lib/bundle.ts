import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

// Puts the launcher, the thread that computes and the command line into one file each: loading them module by module from their source took three times the
// processor time and twice the memory of everything else a server does until it answers (docs/decisions/0029).
const root = join(fileURLToPath(import.meta.url), '../../..');
await build({
  absWorkingDir: root,
  entryPoints: {
    serve: 'bin/lib/serve.ts',
    'server.worker': 'workers/server.worker.ts',
    core: 'bin/lib/core.ts',
    // What a benchmark puts beside the server it measures.
    loopDelay: 'bench/loopDelay.ts',
  },
  // As deep as the source is, so that whoever looks for the root from here finds it.
  outdir: 'build/lib',
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
});
