import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { formatPosition } from '#core/controls/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';
import { closeDb } from '#store/base/db.ts';
import { chartOf } from '#work/answer/chart.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { addVinyl } from '#work/vinyls/vinyls.ts';
import { addCutter } from '#work/workshop/cutters.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { workshopOf } from '#work/workshop/workshop.ts';
import { chartPapers, chartPdf, type ChartPaper } from '../../app/server/paper/chart.server.ts';
import { labelsPdf, labelPapers, type LabelPaper } from '../../app/server/paper/labels.server.ts';
import { form } from '../bench.ts';
import { testDatabase } from '../testDatabase.ts';

// Paper is read back by other programs: text by pdftotext (Poppler), codes by zbarimg (ZBar), fonts by pdffonts.
const scratch = mkdtempSync(join(tmpdir(), 'versipel-paper-'));
let drop: () => Promise<void>;
let person: Person;
const names: string[] = [];
const origin = 'http://127.0.0.1:4780';
beforeAll(async () => {
  const made = await testDatabase();
  drop = made.drop;
  process.env.DATABASE_URL = made.url;
  await publishShippedModels();
  person = (await becomeGuest()).person;
  for (const [model, name] of [
    ['oxbow-dial', 'Little Dial'],
    ['pellam-leaf', 'Kitchen Leaf with a rather long name'],
    ['marlow-24', 'Marlow 24'],
  ] as const)
    await addCutter(person, form({ model, name, blade: 'b', angle: '45', used: '0' }));
  const odd = [
    'Łódź Żółty',
    'Ñandú ½',
    'A name that goes on and on beyond what any row of a chart on paper can hold in one line',
    'Ha’penny',
  ];
  for (let i = 0; i < 40; i++) {
    const name = odd[i] ?? `Film ${String.fromCharCode(65 + (i % 26))}${i}`;
    names.push(name);
    await addVinyl(person, {
      brand: i % 3 ? 'Quillow' : '',
      name,
      type: vinylTypeKeys[i % vinylTypeKeys.length]!,
      colour: 'x',
      hex: '#8a2f4f',
    });
  }
});
afterAll(async () => {
  rmSync(scratch, { recursive: true, force: true });
  await closeDb();
  await drop();
});

const run = (program: string, args: string[]) =>
  execFileSync(program, args, { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] });
const has = (program: string) => {
  try {
    execFileSync('sh', ['-c', `command -v ${program}`]);
    return true;
  } catch {
    return false;
  }
};
const readers = ['pdftotext', 'pdftoppm', 'pdffonts', 'zbarimg'].every(has);
const put = (name: string, body: Uint8Array) => {
  const file = join(scratch, name);
  writeFileSync(file, body);
  return file;
};
/**
 * Every code of a PDF as ZBar reads it at 200 dots an inch, and at 300 where fewer are read than there are: now and then modules fall on the
 * pixels so that one is not, where a camera would only have to be moved.
 */
function codesOf(file: string, count: number): string[] {
  const base = file.replace(/\.pdf$/, '');
  const found = new Set<string>();
  for (const dots of ['200', '300']) {
    if (found.size >= count) break;
    const at = `${base}-${dots}`;
    run('pdftoppm', ['-r', dots, '-gray', '-png', file, at]);
    for (const f of readdirSync(scratch).filter((n) => n.startsWith(`${at.split('/').at(-1)}-`) && n.endsWith('.png')))
      for (const code of run('zbarimg', ['-q', '--raw', '-Sdisable', '-Sqrcode.enable', join(scratch, f)])
        .trim()
        .split('\n'))
        if (code) found.add(code);
  }
  return [...found];
}
/** Words with their box and page. Source of the form: Poppler's pdftotext -bbox. */
function boxesOf(file: string) {
  const html = run('pdftotext', ['-bbox', file, '-']);
  return html
    .split('<page ')
    .slice(1)
    .map((page) => {
      const [, width, height] = /width="([\d.]+)" height="([\d.]+)"/.exec(page)!;
      const words = [
        ...page.matchAll(/xMin="([-\d.]+)" yMin="([-\d.]+)" xMax="([-\d.]+)" yMax="([-\d.]+)">([^<]*)</g),
      ].map(([, x1, y1, x2, y2, text]) => ({ x1: +x1!, y1: +y1!, x2: +x2!, y2: +y2!, text: text! }));
      return { width: +width!, height: +height!, words };
    });
}

describe.skipIf(!readers)('a wall chart of forty vinyls for three cutters', () => {
  test.each(Object.keys(chartPapers) as ChartPaper[])(
    '%s: every name and number is text, every code reads, nothing is cut off',
    async (paper) => {
      const { cutters } = await workshopOf(person);
      const chart = await chartOf(
        person,
        '',
        cutters.map((c) => c.cutter.id),
      );
      expect(chart.rows).toHaveLength(40);
      const file = put(
        `chart-${paper}.pdf`,
        await chartPdf(chart, { paper, origin, date: '26 November 2026', unit: 'C' }),
      );
      const text = run('pdftotext', ['-layout', file, '-']).replace(/\s+/g, ' ');
      for (const name of names.filter((n) => n.length < 20)) expect(text).toContain(name);
      expect(text).toContain('A name that goes');
      for (const row of chart.rows) expect(text).toContain(row.typeWord.split(' ')[0]);
      for (const [c, cutter] of chart.cutters.entries())
        for (const row of chart.rows)
          expect(text).toContain(formatPosition(cutter.axis, row.cells[c]!.answer.position!).split(/[ ,]/)[0]);
      for (const said of [
        '149 °C',
        '300 °F',
        '190 °C',
        '374 °F',
        'do not mirror',
        'face down',
        'no mat',
        'not pressed',
        'peel cold',
        'Kitchen Leaf',
      ])
        expect(text).toContain(said);
      // Alphabetical, whatever the case.
      const order = chart.rows.map((r) => [r.brand, r.name].filter(Boolean).join(' '));
      expect(order).toEqual([...order].sort((a, b) => a.localeCompare(b, 'en', { sensitivity: 'base' })));
      expect(codesOf(file, chart.rows.length).sort()).toEqual(chart.rows.map((r) => `${origin}/vinyls/${r.id}`).sort());
      const fonts = run('pdffonts', [file]).trim().split('\n').slice(2);
      expect(fonts.length).toBeGreaterThan(1);
      for (const font of fonts) expect(font).toMatch(/Atkinson.*\s+yes\s+yes\s+yes\s/);
      const [wide, high] = chartPapers[paper];
      for (const { width, height, words } of boxesOf(file)) {
        expect(width).toBeCloseTo((wide * 72) / 25.4, 0);
        expect(height).toBeCloseTo((high * 72) / 25.4, 0);
        // 5 mm on every side stay free: what printers reach.
        const free = (5 * 72) / 25.4;
        for (const w of words) {
          expect(w.x1, w.text).toBeGreaterThanOrEqual(free);
          expect(w.y1, w.text).toBeGreaterThanOrEqual(free);
          expect(w.x2, w.text).toBeLessThanOrEqual(width - free);
          expect(w.y2, w.text).toBeLessThanOrEqual(height - free);
        }
        // The heading stands on every page, and no word lies on another.
        expect(words.map((w) => w.text)).toEqual(expect.arrayContaining(['Vinyl', 'Press', 'page']));
        for (const [i, a] of words.entries())
          for (const b of words.slice(i + 1)) {
            const wider = Math.min(a.x2, b.x2) - Math.max(a.x1, b.x1);
            const higher = Math.min(a.y2, b.y2) - Math.max(a.y1, b.y1);
            // Boxes are as high as the font's line: they may touch, not lie on each other.
            expect(wider > 1 && higher > 5 ? `${a.text} on ${b.text}` : '').toBe('');
          }
      }
    },
  );
});

describe.skipIf(!readers)('identity labels', () => {
  const labels = Array.from({ length: 25 }, (_, i) => ({
    vinyl: i ? `Quillow Drift ${i}` : 'Ferrule & Sons Starling of the long and winding river',
    colour: 'clear shimmer',
    line: 'holographic · B-1107',
    size: '305 × 5000 mm',
    press: '155 °C, 15 to 20 s (proven)',
    carrier: 'carrier side, shiny',
    code: `abcdefg${'23456789'[i % 8]}`,
    address: `${origin}/s/abcdefg${i}`,
  }));
  test.each(Object.keys(labelPapers) as LabelPaper[])('%s: each on its place, all read back', async (paper) => {
    const { grid, label, margin, gap } = labelPapers[paper];
    const file = put(`labels-${paper}.pdf`, await labelsPdf(labels, paper, 2));
    const each = grid[0] * grid[1];
    const pages = boxesOf(file);
    expect(pages).toHaveLength(Math.ceil((labels.length + Math.min(2, each - 1)) / each));
    expect(codesOf(file, labels.length).sort()).toEqual(labels.map((l) => l.address).sort());
    // Every word lies within one label of the grid.
    const pt = 72 / 25.4;
    for (const { words } of pages)
      for (const w of words) {
        const column = Math.floor((w.x1 / pt - margin[0]) / (label[0] + gap));
        const row = Math.floor((w.y1 / pt - margin[1]) / label[1]);
        expect(w.x2 / pt, w.text).toBeLessThanOrEqual(margin[0] + column * (label[0] + gap) + label[0]);
        expect(w.y2 / pt, w.text).toBeLessThanOrEqual(margin[1] + (row + 1) * label[1] + 0.5);
      }
  });
});
