import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants } from 'node:zlib';

// Packs the built files once, as small as they get (Brotli, RFC 7932), so that nothing is packed while a visitor waits.
const folder = join(fileURLToPath(import.meta.url), '../../../build/client/assets');
for (const name of readdirSync(folder)) {
  if (!/\.(js|css|svg)$/.test(name)) continue;
  const bytes = readFileSync(join(folder, name));
  const params = { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length };
  writeFileSync(join(folder, `${name}.br`), brotliCompressSync(bytes, { params }));
}
