import { columns, writeRow, type CatalogueRecord } from '#core/catalogue/index.ts';
import { seededRandom } from '#core/stats/index.ts';
import { vinylTypeKeys } from '#core/vinyls/index.ts';

/** Ten kinds of fault as they come in tables people keep: what is done to a good line, and what the reason says of it. */
export const faultKinds: {
  kind: string;
  spoil: (cells: string[], n: number) => string[];
  why: string;
  column: string;
}[] = [
  { kind: 'wrong unit', spoil: set('film_um', '12 kg'), column: 'film_um', why: 'no length' },
  {
    kind: 'impossible temperature',
    spoil: set('press_heat', '900 °F'),
    column: 'press_heat',
    why: 'no heat of a press',
  },
  { kind: 'heat without unit', spoil: set('press_heat', '160'), column: 'press_heat', why: 'no unit' },
  { kind: 'unknown type', spoil: set('type', 'velvetine'), column: 'type', why: 'no type known' },
  { kind: 'duplicate', spoil: (cells) => cells, column: 'name', why: 'same vinyl as line' },
  { kind: 'bad encoding', spoil: set('brand', 'Caf\u0000'), column: 'brand', why: 'not UTF-8' },
  { kind: 'formula', spoil: set('note', '=HYPERLINK("http://x.example","y")'), column: 'note', why: 'formula' },
  { kind: 'no name', spoil: set('name', ''), column: 'name', why: 'is missing' },
  { kind: 'no colour', spoil: set('colours', 'red #12gg00'), column: 'colours', why: 'no colour' },
  { kind: 'a cell too many', spoil: (cells) => [...cells, 'x'], column: '', why: 'cells under' },
];

function set(key: string, value: string) {
  const at = columns.findIndex((c) => c.key === key);
  return (cells: string[]) => cells.map((c, i) => (i === at ? value : c));
}

const quote = (cell: string) => (/[",\r\n;]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);

/**
 * A table of so many vinyls as a spreadsheet would save it, with so many faults of each kind planted at places of their own.
 * @returns the bytes, and the line of every fault
 */
export function catalogueFile(rows: number, each: number, seed: number) {
  const source = seededRandom(seed);
  const random = () => source.uniform();
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  const record = (i: number): CatalogueRecord => ({
    brand: pick(['Quillow', 'Ferrule & Sons', 'Pagewell "West"', 'Ñandú', '']),
    name: `Film ${i}`,
    type: pick(vinylTypeKeys),
    ownType: '',
    colours: [
      { name: pick(['ember red', 'gold', 'café']), hex: '#b0203a' },
      { name: 'chalk, old', hex: '#f3efe4' },
    ].slice(0, 1 + Math.floor(random() * 2)),
    nicknames: random() < 0.2 ? ['the good one', 'sparkle'] : [],
    codes: random() < 0.3 ? [`00${i}`] : [],
    behaviour:
      random() < 0.5
        ? {}
        : {
            filmUm: 60 + Math.floor(random() * 300),
            mat: 'high grip',
            press: [
              {
                seconds: [10, 15],
                heat: 151_667,
                pressure: 'medium',
                cover: 'baking paper',
                peel: 'cold',
                then: 'Once more,\nlightly.',
              },
            ],
          },
    sizes:
      random() < 0.3
        ? [{ kind: 'roll', widthUm: 304_800, lengthUm: 4_572_000, price: { minor: 1450, currency: 'EUR' } }]
        : [],
    note: random() < 0.1 ? 'says "handle with care"; a, b' : '',
  });
  const good = Array.from({ length: rows }, (_, i) => writeRow(record(i)));
  // Faults lie apart from each other, and never on the first lines: a duplicate needs one before it.
  const places = Array.from(
    { length: each * faultKinds.length },
    (_, i) => 20 + Math.floor((i * (rows - 30)) / (each * faultKinds.length)),
  );
  const faults = places.map((at, i) => ({ at, ...faultKinds[i % faultKinds.length]! }));
  for (const [i, f] of faults.entries())
    good[f.at] = f.kind === 'duplicate' ? [...good[f.at - 7]!] : f.spoil(good[f.at]!, i);
  // Notes of several lines: the line a row begins on is counted, not the row.
  let line = 2;
  const lines = good.map((cells) => {
    const begins = line;
    line += 1 + cells.join('').split('\n').length - 1;
    return begins;
  });
  const text = [columns.map((c) => c.key), ...good].map((cells) => cells.map(quote).join(',')).join('\r\n');
  const bytes = Buffer.from(`\ufeff${text}\r\n`, 'utf8');
  // A byte that no UTF-8 has in that place, where NUL held it.
  for (let i = 0; i < bytes.length; i++) if (bytes[i] === 0) bytes[i] = 0xe9;
  return {
    bytes: new Uint8Array(bytes),
    faults: faults.map((f) => ({ line: lines[f.at]!, kind: f.kind, column: f.column, why: f.why })),
  };
}
