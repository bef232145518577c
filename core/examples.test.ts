import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

// The examples in core's docstrings are run: `@example call // answer`, with what its file and the door of its folder export at hand.
const core = fileURLToPath(new URL('.', import.meta.url));
const subjects = readdirSync(core, { withFileTypes: true }).flatMap((d) => (d.isDirectory() ? [d.name] : []));
const examples = subjects.flatMap((subject) =>
  readdirSync(join(core, subject))
    .filter((f) => f.endsWith('.ts') && !f.endsWith('.test.ts'))
    .flatMap((file) =>
      [...readFileSync(join(core, subject, file), 'utf8').matchAll(/@example (.+?) \/\/ (.+?)(?: \*\/)?$/gm)].map(
        (m) => [`${subject}/${file}`, subject, m[1]!, m[2]!] as const,
      ),
    ),
);

test.each(examples)('%s (%s): %s is %s', async (file, subject, call, answer) => {
  const own = (await import(`./${subject}/${file.split('/')[1]!.replace('.ts', '')}.ts`)) as Record<string, unknown>;
  const door = (await import(`./${subject}/index.ts`)) as Record<string, unknown>;
  const { shippedModel, strengthAxis, startingSetting } = (await import('./controls/index.ts')) as Record<
    string,
    unknown
  >;
  const names = { shippedModel, strengthAxis, startingSetting, ...door, ...own };
  const run = (code: string) =>
    new Function(...Object.keys(names), `return (${code});`)(...Object.values(names)) as unknown;
  const [got, wanted] = [run(call), run(answer)];
  if (typeof wanted === 'number') expect(got).toBeCloseTo(wanted, 4);
  else expect(got).toEqual(wanted);
});

test('there are examples in seven subjects', () => {
  expect(new Set(examples.map((e) => e[1])).size).toBeGreaterThanOrEqual(7);
});
