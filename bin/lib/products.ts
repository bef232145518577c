import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import wabt from 'wabt';

// Turns core/transfer/products.wat into the machine code that stands in products.ts beside it.
const beside = (name: string) => fileURLToPath(new URL(`../../core/transfer/${name}`, import.meta.url));

/** The text of products.ts. */
export async function productsSource(): Promise<string> {
  const tool = await wabt();
  const module = tool.parseWat('products.wat', readFileSync(beside('products.wat'), 'utf8'), { simd: true });
  module.validate();
  const code = Buffer.from(module.toBinary({}).buffer).toString('base64');
  const lines = code.match(/.{1,112}/g)!.map((line) => `  '${line}'`);
  return `/** Machine code of products.wat, made by \`npm run products\`: about 1 kB. */\nexport const PRODUCTS =\n${lines.join(' +\n')};\n`;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) writeFileSync(beside('products.ts'), await productsSource());
