import { seededRandom } from '#core/stats/index.ts';

// Drawings of a few kB that once took half a minute and more to read, and ordinary detail that must not be taken for one of them. What is
// expected of each: it is read, or refused with a sentence before anything is joined.

const svg = (inner: string, side = 100) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}">${inner}</svg>`;
const list = <T>(n: number, make: (i: number) => T) => Array.from({ length: n }, (_, i) => make(i));

/** Discs with a wavy edge of 300 points, in rows: one drawn, shown many times. */
export function wavyDiscs(count: number, waves = 12): string {
  const edge = list(300, (k) => {
    const angle = (2 * Math.PI * k) / 300;
    const r = 4 * (1 + 0.1 * Math.sin(waves * angle));
    return `${(r * Math.cos(angle)).toFixed(2)} ${(r * Math.sin(angle)).toFixed(2)}`;
  });
  const across = Math.ceil(Math.sqrt(count));
  const shown = list(
    count,
    (i) => `<use href="#d" x="${(i % across) * 10 + 5}" y="${Math.floor(i / across) * 10 + 5}"/>`,
  );
  return svg(`<defs><path id="d" d="M${edge.join('L')}Z"/></defs>${shown.join('')}`, across * 10);
}

export type WorstDrawing = { name: string; svg: string; expected: 'read' | 'drawn whole' | RegExp };

export function worstDrawings(): WorstDrawing[] {
  const random = seededRandom(7);
  const anywhere = (n: number) =>
    list(n, () => `${(100 * random.uniform()).toFixed(2)} ${(100 * random.uniform()).toFixed(2)}`).join('L');
  const crowded = /cross each other or lie too close together/;
  const detailed = /too detailed/;
  const line = (dashes: string, more = '') =>
    svg(`<path d="M0 0L100 100" stroke="#000" stroke-width="1" ${more} stroke-dasharray="${dashes}"/>`);
  return [
    { name: 'dashes of 1e-9', svg: line('1e-9'), expected: 'drawn whole' },
    { name: 'dashes of 0.001', svg: line('0.001'), expected: 'drawn whole' },
    {
      name: 'fine dashes with a wide round pen',
      svg: line('0.05', 'stroke-linecap="round"').replace('stroke-width="1"', 'stroke-width="30"'),
      expected: 'drawn whole',
    },
    { name: 'a pattern of 100 000 dashes', svg: line(list(100_000, () => '1').join(' ')), expected: 'read' },
    { name: '5 000 lines that cross', svg: svg(`<path d="M${anywhere(5_000)}Z"/>`), expected: crowded },
    { name: '20 000 lines that cross', svg: svg(`<path d="M${anywhere(20_000)}Z"/>`), expected: crowded },
    {
      name: '5 000 lines drawn with a pen',
      svg: svg(`<path fill="none" stroke="#000" stroke-width=".1" d="M${anywhere(5_000)}"/>`),
      expected: crowded,
    },
    {
      name: 'a comb of 10 000 teeth',
      svg: svg(
        `<path d="M0 0${list(10_000, (i) => `L${(i * 0.01).toFixed(2)} 100L${(i * 0.01 + 0.005).toFixed(3)} 0`).join('')}Z"/>`,
      ),
      expected: crowded,
    },
    {
      name: '12 000 rings, one in another',
      svg: svg(
        list(
          12_000,
          (i) => `<circle cx="50" cy="50" r="${50 - i * 0.004}" fill="none" stroke="#000" stroke-width=".001"/>`,
        ).join(''),
      ),
      expected: detailed,
    },
    {
      name: '1 500 rings as one path',
      svg: svg(
        `<path fill-rule="evenodd" d="${list(1_500, (i) => `M${list(75, (k) => `${(50 + (50 - i * 0.03) * Math.cos((k * Math.PI * 2) / 75)).toFixed(3)} ${(50 + (50 - i * 0.03) * Math.sin((k * Math.PI * 2) / 75)).toFixed(3)}`).join('L')}Z`).join('')}"/>`,
      ),
      expected: crowded,
    },
    {
      name: 'a style sheet of brackets',
      svg: svg(`<style>${'('.repeat(200_000)}</style><path d="M0 0h9v9z"/>`),
      expected: 'read',
    },
    {
      name: '300 000 class names and 5 000 rules',
      svg: svg(
        `<style>${list(5_000, (i) => `.c${i}{fill:red}`).join('')}</style><path class="${list(300_000, (i) => `c${i % 999}`).join(' ')}" d="M0 0h9v9z"/>`,
      ),
      expected: 'read',
    },
    {
      name: 'entities that grow to 100 MB',
      svg: `<!DOCTYPE svg [<!ENTITY e "${'M0 0L9 9'.repeat(30)}">]>${svg(`<path d="${'&e;'.repeat(400_000)}"/>`)}`,
      expected: /repeats too much text/,
    },
    {
      name: 'one shape shown 20 000 times',
      svg: svg(
        `<defs><path id="a" d="M${anywhere(2_000)}"/></defs>${list(20_000, (i) => `<use href="#a" x="${i % 100}"/>`).join('')}`,
      ),
      expected: detailed,
    },
    { name: '100 wavy discs', svg: wavyDiscs(100), expected: 'read' },
    { name: '400 wavy discs', svg: wavyDiscs(400), expected: 'read' },
  ];
}
