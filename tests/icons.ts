/// <reference types="paper" />
import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import paperCore from 'paper/dist/paper-core.js';

// Icons of an open package (@mui/icons-material), and what an independent library of vector paths, Paper.js, says of them.
const folder = dirname(createRequire(import.meta.url).resolve('@mui/icons-material/package.json'));
const paper = paperCore as unknown as paper.PaperScope;
paper.setup(new paper.Size(24, 24));

/** Icons of one filled path, spread over the alphabet, no two alike: some go by several names. */
export function icons(count: number): { name: string; d: string }[] {
  const all = readdirSync(folder).filter(
    (f) => /^[A-Z][A-Za-z]+\.mjs$/.test(f) && !/(Outlined|Sharp|TwoTone|Rounded)\.mjs$/.test(f),
  );
  const found: { name: string; d: string }[] = [];
  for (let i = 0; found.length < count; i += 29) {
    const file = all[i % all.length]!;
    const text = readFileSync(join(folder, file), 'utf8');
    const paths = [...text.matchAll(/\bd: "([^"]+)"/g)].map((m) => m[1]!);
    if (found.some((f) => f.d === paths[0])) continue;
    if (paths.length === 1 && !/"(circle|rect|g|ellipse|polygon)"|opacity|fillRule/.test(text))
      found.push({ name: file.replace('.mjs', ''), d: paths[0]! });
  }
  return found;
}

/** A filled path as Paper.js has it, its shapes united by the non-zero rule, curves as curves. */
export function united(d: string) {
  const whole = new paper.CompoundPath(d);
  whole.fillRule = 'nonzero';
  // What is filled is closed.
  for (const part of whole.children as paper.Path[]) part.closed = true;
  const one = whole.unite(whole) as paper.PathItem;
  const parts = (one.children?.length ? one.children : [one]) as paper.Path[];
  // Slivers that uniting leaves are no pieces: smaller than a thousandth of a square unit.
  const real = parts.filter((p) => Math.abs(p.area) > 1e-3);
  const area = real.reduce((s, p) => s + p.area, 0);
  const pieces = real.filter((p) => Math.sign(p.area) === Math.sign(area)).length;
  return {
    /** As it was drawn, each of its shapes closed. */
    closed: whole.pathData,
    /** Length of all its shapes, whether they overlap or not. */
    drawn: whole.length,
    area: Math.abs(area),
    length: real.reduce((s, p) => s + p.length, 0),
    pieces,
    holes: real.length - pieces,
    longer: Math.max(one.bounds.width, one.bounds.height),
  };
}
