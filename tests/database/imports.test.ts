import { describe, expect, test } from 'vitest';
import { columns } from '#core/catalogue/index.ts';
import { addOwnType } from '#work/vinyls/types.ts';
import { tableLimits } from '#core/tables/index.ts';
import { NotFound } from '#work/base/errors.ts';
import { doImport, importOf, mapColumns, mendRows, seeFile, undoImport } from '#work/answer/imports.ts';
import { becomeGuest } from '#work/people/people.ts';
import type { Person } from '#work/people/person.ts';
import { tableFile, tablePage, tableQuery } from '#work/answer/table.ts';
import { addPiece } from '#work/vinyls/stock.ts';
import { addVinyl, pinVinyl } from '#work/vinyls/vinyls.ts';
import { listVinyls } from '#work/answer/list.ts';
import { settingOf } from '#work/coupons/readings.ts';
import { coloursOf } from '#work/vinyls/catalogue.ts';
import { benchOf } from '#work/workshop/bench.ts';
import { crafter, fieldsOf, form } from '../bench.ts';
import { catalogueFile, faultKinds } from '../catalogueFile.ts';
import { ownHouse } from '../house.ts';
import { rows } from '../testDatabase.ts';

const house = ownHouse();

const guest = async () => (await becomeGuest()).person;
const bytesOf = (text: string) => new TextEncoder().encode(text);
const see = (person: Person, text: string, name = 'mine.csv') => seeFile(person, { name, bytes: bytesOf(text) });
const count = async (person: Person) =>
  (await rows<{ n: number }>(house.url, 'select count(*)::int as n from vinyl where person_id = $1', [person.id]))[0]!
    .n;
const everything = tableQuery.parse({ mine: 'yes', sort: 'name' });

describe('five thousand rows with forty planted faults of ten kinds', () => {
  test('forty are reported by row and reason, the rest is in, nothing twice; out, in and out again it is the same', async () => {
    expect(faultKinds).toHaveLength(10);
    const person = await guest();
    const { bytes, faults } = catalogueFile(5000, 4, 11);
    expect(faults).toHaveLength(40);
    const id = await seeFile(person, { name: 'vinyls.csv', bytes });
    const seen = await importOf(person, id);
    expect(seen.counts).toEqual({ new: 4960, more: 0, already: 0, refused: 40, numbers: 0, colours: 0 });
    expect(seen.missing).toEqual([]);
    for (const f of faults) {
      const row = seen.refused.find((r) => r.line === f.line);
      expect(row, `${f.kind} on line ${f.line}`).toBeDefined();
      expect(row!.problems[0]).toMatchObject({ column: f.column, why: expect.stringContaining(f.why) as string });
      expect(row!.problems).toHaveLength(1);
    }
    expect(await count(person)).toBe(0);
    expect(await doImport(person, id)).toMatchObject({ added: 4960, already: 0, refused: 40, numbers: 0 });
    expect(await count(person)).toBe(4960);
    // Two taps on the button, and the same file once more.
    expect(await doImport(person, id)).toMatchObject({ added: 4960, already: 0, refused: 40, numbers: 0 });
    const again = await seeFile(person, { name: 'vinyls.csv', bytes });
    expect((await importOf(person, again)).counts).toMatchObject({ new: 0, more: 0, already: 4964, refused: 36 });
    expect(await doImport(person, again)).toMatchObject({ added: 0, already: 4964, refused: 36 });
    expect(await count(person)).toBe(4960);

    const other = await guest();
    for (const kind of ['csv', 'json'] as const) {
      const out = await tableFile(person, undefined, everything, kind);
      const into = kind === 'csv' ? other : await guest();
      await doImport(into, await see(into, out, `vinyls.${kind}`));
      expect(await count(into)).toBe(4960);
      expect(await tableFile(into, undefined, everything, kind)).toBe(out);
    }
    // RFC 4180: lines end with CR LF, every record has as many fields as the header.
    const csv = await tableFile(other, undefined, everything, 'csv');
    expect(csv.startsWith(`${columns.map((c) => c.key).join(',')}\r\n`)).toBe(true);
    expect(csv.endsWith('\r\n')).toBe(true);
    expect(csv.replaceAll('\r\n', '').includes('\r')).toBe(false);

    expect(await undoImport(person, id)).toMatchObject({ undone: 4960, kept: 0 });
    expect(await count(person)).toBe(0);
    expect(await listVinyls(person, undefined, 'film')).toEqual([]);
    expect(await fieldsOf(undoImport(person, id))).toEqual({ form: 'There is nothing to take back.' });
  });
});

describe('a table of one’s own', () => {
  test('other headings, semicolons and a decimal comma; columns are put right by hand', async () => {
    const person = await guest();
    const id = await see(
      person,
      'Firm;Article;Sort;Thickness\nQuillow;Drift;holographic;0,11 mm\nTansy;Loft;puff;0,3 mm\n',
    );
    let seen = await importOf(person, id);
    expect(seen.missing).toEqual(['name', 'type']);
    expect(seen.samples).toEqual(['Quillow', 'Drift', 'holographic', '0,11 mm']);
    expect(
      await fieldsOf(
        mapColumns(person, id, form({ 'column-0': 'brand', 'column-1': 'name', 'column-2': 'name', 'column-3': '' })),
      ),
    ).toEqual({ form: 'Two columns of the file are put under name. Leave one out.' });
    await mapColumns(
      person,
      id,
      form({ 'column-0': 'brand', 'column-1': 'name', 'column-2': 'type', 'column-3': 'film_um' }),
    );
    seen = await importOf(person, id);
    expect(seen.counts).toMatchObject({ new: 2, already: 0, refused: 0 });
    await doImport(person, id);
    const { rows: page } = await tablePage(person, undefined, everything);
    expect(page.map((r) => [r.cells.name, r.cells.film_um, r.fromType.mat])).toEqual([
      ['Drift', '110 µm', 'ordinary'],
      ['Loft', '300 µm', 'ordinary'],
    ]);
  });
  test('a type of one’s own is known by its word; somebody else’s is not', async () => {
    const [person, stranger] = [await guest(), await guest()];
    await addOwnType(person, form({ word: 'Chunky glitter', parent: 'glitter', film_um: '400' }));
    const text = 'name,type\nRiver,chunky glitter\n';
    await doImport(person, await see(person, text));
    expect((await listVinyls(person, undefined, 'river'))[0]).toMatchObject({
      type: 'glitter',
      typeWord: 'Chunky glitter',
    });
    expect((await importOf(stranger, await see(stranger, text))).counts.refused).toBe(1);
  });
  test('what was used since stays when the import is taken back', async () => {
    const person = await guest();
    const id = await see(person, 'name,type\nOne,smooth\nTwo,smooth\nThree,smooth\n');
    await doImport(person, id);
    const [two] = await listVinyls(person, undefined, 'two');
    await addPiece(person, two!.id, form({ kind: 'roll', width: '305', length: '1 m' }));
    const [three] = await listVinyls(person, undefined, 'three');
    await pinVinyl(person, three!.id, true);
    expect(await undoImport(person, id)).toMatchObject({ undone: 2, kept: 1 });
    expect((await listVinyls(person, undefined, '')).map((v) => v.name)).toEqual(['Two']);
  });
  test('another’s import is not found; a vinyl of the same name as one’s own is there already', async () => {
    const [person, stranger] = [await guest(), await guest()];
    await addVinyl(person, { brand: 'Quillow', name: 'Drift', type: 'holographic', colour: 'clear', hex: '#cfc4ea' });
    const id = await see(person, 'brand,name,type\nQUILLOW , drift,glitter\n');
    expect((await importOf(person, id)).counts).toMatchObject({ new: 0, already: 1, refused: 0 });
    for (const work of [
      () => importOf(stranger, id),
      () => importOf(undefined, id),
      () => doImport(stranger, id),
      () => undoImport(stranger, id),
    ])
      await expect(work()).rejects.toThrow(NotFound);
  });
});

describe('old settings from a spreadsheet', () => {
  const table = [
    'Brand,Vinyl,HTV,Color,Force,Speed,Passes,Blade,Notes',
    'Quillow,Drift,holo htv,clear shimmer,146,4,1,45°,the good one',
    'Quillow,Heron,HTV,Ruby Red,92,6,1,,',
    'Quillow,Heron,HTV,Navy,96,6,1,,',
    'Quillow,Marsh,glitter,moss,900,4,1,,',
    'Quillow,Loft,3D puff,white,,,,,',
  ].join('\n');

  test('force, speed and passes are kept as drafts; a second colour is a colour; names are colours; a bad row is mended', async () => {
    const person = await crafter('Ada Fenn', 'marlow-24', 'ada@example.org');
    const bench = (await benchOf(person))!;
    const id = await see(person, table);
    let seen = await importOf(person, id);
    expect(seen.missing).toEqual([]);
    expect(seen.mapping).toEqual([
      'brand',
      'name',
      'type',
      'colours',
      'set.force',
      'set.speed',
      'set.passes',
      'on.blade',
      'note',
    ]);
    expect(seen.counts).toEqual({ new: 3, more: 1, already: 0, refused: 1, numbers: 3, colours: 0 });
    expect(seen.sample[0]!.note).toBe('the good one');
    expect(seen.refused[0]!.problems).toEqual([
      { column: 'set.force', why: expect.stringContaining('10 to 400') as string },
    ]);
    expect(await doImport(person, id)).toMatchObject({ added: 3, refused: 1, numbers: 3 });

    const rows3 = await listVinyls(person, bench, '');
    const drift = rows3.find((v) => v.name === 'Drift')!;
    expect(drift).toMatchObject({ type: 'holographic', standing: 'draft', answer: { position: 146, from: 'kept' } });
    expect(drift.controls!.steps).toMatchObject({ force: 146, speed: 4, passes: 1 });
    const heron = rows3.find((v) => v.name === 'Heron')!;
    expect((await coloursOf(heron.id)).map((c) => [c.name, c.hex])).toEqual([
      ['Ruby Red', expect.stringMatching(/^#[a-f]/) as string],
      ['Navy', '#000080'],
    ]);
    const navy = (await coloursOf(heron.id))[1]!.id;
    expect((await settingOf(person.id, heron.id, bench.cutter, 'clean', navy))!.controls.steps.force).toBe(96);
    expect((await settingOf(person.id, heron.id, bench.cutter, 'clean'))!.controls.steps.force).toBe(92);

    // The row that could not be taken is still there, is mended and added.
    seen = await importOf(person, id);
    expect(seen.counts).toMatchObject({ new: 0, refused: 1 });
    const at = seen.mapping.indexOf('set.force');
    await mendRows(person, id, form({ [`cell-${seen.refused[0]!.line}-${at}`]: '160' }));
    expect((await importOf(person, id)).counts).toMatchObject({ new: 1, refused: 0, numbers: 1 });
    expect(await doImport(person, id)).toMatchObject({ added: 4, refused: 0, numbers: 4 });
    expect((await importOf(person, id)).state).toBe('done');

    // A number that is kept is not overwritten; a further colour of what is here is added.
    const again = await see(person, 'brand,name,type,colour,force\nQuillow,Drift,holographic,gold,90\n');
    expect((await importOf(person, again)).counts).toMatchObject({ new: 0, more: 1, numbers: 0, colours: 1 });
    await doImport(person, again);
    expect((await coloursOf(drift.id)).map((c) => c.name)).toEqual(['clear shimmer', 'gold']);

    // Out with their numbers, and in again elsewhere.
    const out = await tableFile(person, bench, everything, 'csv');
    expect(out.split('\r\n')[0]).toMatch(/,force,blade depth,speed,passes,blade,standing,chance,last cut$/);
    const other = await crafter('Ben Rook', 'marlow-24', 'ben@example.org');
    const copy = await see(other, out);
    expect((await importOf(other, copy)).counts).toMatchObject({ new: 4, refused: 0, numbers: 3 });
    await doImport(other, copy);
    expect((await listVinyls(other, await benchOf(other), 'drift'))[0]).toMatchObject({ answer: { position: 146 } });

    // Taken back, the drafts go with the vinyls.
    expect(await undoImport(person, id)).toMatchObject({ undone: 4, kept: 0 });
  });
  test('without a cutter on the bench the vinyls come, and their controls stay in the file', async () => {
    const person = await guest();
    const seen = await importOf(person, await see(person, table));
    expect(seen.cutter).toBeUndefined();
    expect(seen.counts).toMatchObject({ new: 4, numbers: 0, refused: 0 });
  });
  test('the wide table has a column for each control of the cutter on the bench, and what is known', async () => {
    const person = await crafter('Cleo Marsh', 'marlow-24', 'cleo@example.org');
    await doImport(person, await see(person, table));
    const { rows: page, numbers } = await tablePage(person, await benchOf(person), everything);
    expect(numbers.map((n) => n.word)).toEqual([
      'force',
      'blade depth',
      'speed',
      'passes',
      'blade',
      'standing',
      'chance',
      'last cut',
    ]);
    const drift = page.find((r) => r.cells.name === 'Drift')!;
    expect(drift.numbers).toMatchObject({ 'set.force': '146', 'set.speed': '4', standing: 'draft', last_cut: '' });
    expect(page.find((r) => r.cells.name === 'Loft')!.numbers.standing).toBe('a guess');
  });
});

describe('what is no table', () => {
  test.each([
    ['', 'a.csv', 'Choose a file'],
    ['   \n', 'a.csv', 'The file is empty.'],
    ['name,type\n', 'a.csv', 'headings and no row'],
    ['name,type\n"open,smooth\n', 'a.csv', 'a quote that does not close'],
    ['{"format":"other"}', 'a.json', 'versipel-vinyls/1'],
    ['not json', 'a.json', 'no JSON'],
    ['{"format":"versipel-vinyls/1","vinyls":[]}', 'a.json', 'no row'],
    [`name,type\n${'x,smooth\n'.repeat(tableLimits.rows + 1)}`, 'a.csv', 'rows; 20000 fit'],
    [Array.from({ length: 90 }, (_, i) => `c${i}`).join(','), 'a.csv', 'columns; 80 fit'],
  ] as const)('case %#', async (text, name, why) => {
    const fields = await fieldsOf(see(await guest(), text, name));
    expect((fields as Record<string, string>).file).toContain(why);
  });
  test('hostile JSON: keys of objects, deep nesting, numbers out of this world: refused by row, nothing else touched', async () => {
    const person = await guest();
    const id = await see(
      person,
      '{"format":"versipel-vinyls/1","vinyls":[{"__proto__":{"x":"1"},"name":"A","type":"smooth"},{"name":{"a":[[[[]]]]},"type":"smooth"},{"name":"B","type":"smooth","wear":1e308},null,{"name":"a\\u0000b","type":"smooth"}]}',
      'a.json',
    );
    const seen = await importOf(person, id);
    expect(seen.counts).toMatchObject({ new: 0, already: 0, refused: 5 });
    expect(({} as Record<string, unknown>).x).toBeUndefined();
  });
});
