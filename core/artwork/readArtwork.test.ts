import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutPaths } from './cutPaths.ts';
import { designs } from './designs.ts';
import { ArtworkError, artworkLimits } from './limits.ts';
import { readArtwork } from './readArtwork.ts';
import { pathOfRings, ringArea, ringsOfPath, type Ring } from './rings.ts';

const read = (body: string, head = 'viewBox="0 0 100 100"') =>
  readArtwork(`<svg xmlns="http://www.w3.org/2000/svg" ${head}>${body}</svg>`);
const areas = (body: string, head?: string) => {
  const art = read(body, head);
  const unit = art.width;
  return art.layers.map((l) => [l.hex, Number((l.area / unit / unit).toFixed(3)), l.pieces, l.holes]);
};

describe('what a drawing shows', () => {
  it('colours become layers, the lowest first; alike ones join', () => {
    expect(
      areas(
        '<rect width="100" height="50" fill="#c00"/><rect x="10" y="10" width="20" height="20" fill="#00c"/><rect y="60" width="100" height="10" fill="#c00"/>',
      ),
    ).toEqual([
      ['#cc0000', 0.6, 2, 0],
      ['#0000cc', 0.04, 1, 0],
    ]);
  });
  it('a colour that comes back above another one is a layer of its own', () => {
    expect(
      areas(
        '<rect width="100" height="50" fill="red"/><rect x="10" y="10" width="40" height="30" fill="blue"/><rect x="20" y="20" width="10" height="10" fill="red"/>',
      ).map((l) => l[0]),
    ).toEqual(['#ff0000', '#0000ff', '#ff0000']);
  });
  it.each([
    ['even-odd leaves a hole', '<path fill-rule="evenodd" d="M0 0H100V100H0ZM25 25H75V75H25Z"/>', 0.75, 1, 1],
    ['non-zero of the same turn leaves none', '<path d="M0 0H100V100H0ZM25 25H75V75H25Z"/>', 1, 1, 0],
    ['non-zero of the other turn leaves one', '<path d="M0 0H100V100H0ZM25 25V75H75V25Z"/>', 0.75, 1, 1],
    [
      'a class of a style sheet',
      '<style>.a{fill-rule:evenodd} g .a{fill:#123456}</style><g><path class="a" d="M0 0H100V100H0ZM25 25H75V75H25Z"/></g>',
      0.75,
      1,
      1,
    ],
    [
      'nested transforms',
      '<g transform="translate(50 50)"><g transform="rotate(90) scale(2)"><rect x="-25" y="-25" width="50" height="50"/></g></g>',
      1,
      1,
      0,
    ],
    [
      'use of a symbol',
      '<defs><symbol id="s" viewBox="0 0 10 10"><rect width="10" height="10"/></symbol></defs><use href="#s" width="100" height="100"/>',
      1,
      1,
      0,
    ],
    ['a line with a pen', '<line x1="0" y1="50" x2="100" y2="50" stroke="#000" stroke-width="10"/>', 0.1, 1, 0],
    [
      'dashes',
      '<line x1="0" y1="50" x2="100" y2="50" stroke="#000" stroke-width="10" stroke-dasharray="20 20"/>',
      0.06,
      3,
      0,
    ],
    [
      'a pen round a square',
      '<rect x="5" y="5" width="90" height="90" fill="none" stroke="#000" stroke-width="10"/>',
      0.36,
      1,
      1,
    ],
    [
      'nothing that is hidden',
      '<rect width="100" height="100"/><rect width="9" height="9" fill="red" display="none"/><g visibility="hidden"><rect width="9" height="9" fill="red"/></g>',
      1,
      1,
      0,
    ],
  ])('%s', (_, body, area, pieces, holes) => {
    const found = areas(body);
    expect(found).toHaveLength(1);
    expect(found[0]!.slice(1)).toEqual([expect.closeTo(area, 2), pieces, holes]);
  });
  it('is as large as its file says', () => {
    expect(
      read('<rect width="200" height="100"/>', 'width="200mm" height="100mm" viewBox="0 0 200 100"').naturalWidthUm,
    ).toBe(200_000);
    expect(read('<rect width="96" height="96"/>', 'width="1in" height="1in" viewBox="0 0 96 96"').naturalWidthUm).toBe(
      25_400,
    );
    expect(read('<rect width="200" height="100"/>').naturalWidthUm).toBeUndefined();
  });
  it('our own drawings are read, without a note', () => {
    for (const d of designs) {
      const art = readArtwork(d.svg);
      expect(art.notes, d.name).toEqual([]);
      expect(art.layers.length, d.name).toBeGreaterThan(0);
      expect(Math.max(art.width, art.height)).toBe(1_000_000);
    }
  });
});

describe('what cannot be used is said in one line', () => {
  it.each([
    ['nothing', '', /no drawing/],
    ['another kind of file', '<html/>', /"html" file/],
    ['broken text', '<svg><path d="M0 0', /no drawing that can be read/],
    ['only pixels', '<svg viewBox="0 0 1 1"><image href="a.png"/></svg>', /only pixels/],
    ['only text', '<svg><text>hello</text></svg>', /letters into outlines/],
    ['an empty page', '<svg viewBox="0 0 10 10"/>', /nothing in this drawing/],
    ['a use that loops', '<svg><g id="a"><use href="#b"/></g><g id="b"><use href="#a"/></g></svg>', /uses itself/],
    ['no extent', '<svg><path d="M5 5"/></svg>', /nothing in this drawing/],
    ['too large a file', `<svg>${' '.repeat(artworkLimits.bytes)}</svg>`, /MB/],
    ['too deep', `<svg>${'<g>'.repeat(300)}${'</g>'.repeat(300)}</svg>`, /nested deeper/],
    ['too many elements', `<svg>${'<g/>'.repeat(artworkLimits.elements + 1)}</svg>`, /more than/],
    [
      'a use that doubles and doubles',
      `<svg><rect id="a0" width="1" height="1"/>${Array.from({ length: 16 }, (_, i) => `<g id="a${i + 1}"><use href="#a${i}"/><use href="#a${i}"/></g>`).join('')}</svg>`,
      /shows more than|uses itself/,
    ],
  ])('%s', (_, svg, says) => {
    expect(() => readArtwork(svg)).toThrow(ArtworkError);
    expect(() => readArtwork(svg)).toThrow(says);
  });
  it('what refers outside is left out and said; nothing is fetched', () => {
    const art = read(
      '<rect width="10" height="10"/><use href="https://elsewhere.invalid/a.svg#b"/><image href="https://elsewhere.invalid/a.png"/>',
    );
    expect(art.layers).toHaveLength(1);
    expect(art.notes.join(' ')).toMatch(/another file.*|pixels/);
  });
  it('whatever text comes: a drawing, or one clear error', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            '<svg>',
            '<g ',
            'transform="scale(0)"',
            '>',
            '<path d="M0 0L',
            '1e999',
            ' 5 5',
            'NaN',
            'z"/>',
            '<rect width="5" height="5"/>',
            '</g>',
            '</svg>',
            '&a;',
            '<use href="#x"/>',
            '<!ENTITY a "b">',
          ),
          { maxLength: 14 },
        ),
        (bits) => {
          try {
            expect(readArtwork(bits.join('')).layers.length).toBeGreaterThan(0);
          } catch (error) {
            expect(error).toBeInstanceOf(ArtworkError);
          }
        },
      ),
      { numRuns: 300 },
    );
  });
});

describe('shapes that lie on each other', () => {
  it('the same one twice is cut once, and said', () => {
    const one = '<path fill="#102030" d="M0 0h40v40h-40z"/>';
    const twice = read(one + one + '<path fill="#102030" d="M60 0h40v40h-40z"/>');
    expect([twice.layers[0]!.pieces, twice.layers[0]!.length]).toEqual([2, 3_200_000]);
    expect(twice.notes).toEqual(['One shape lies twice in the same place: it is cut once.']);
    expect(read(one + one.replace('M0', 'M1')).notes).toEqual([]);
  });
});

describe('the lines to cut', () => {
  const art = read('<path d="M0 0H100L0 50Z"/>');
  const layer = art.layers[0]!;
  const signed = (mirrored: boolean) => cutPaths(art, layer, { widthUm: 100_000, margin: 10_000, mirrored });

  it('turned once where it lies face down: the same area, the other way round', () => {
    const [plain, turned] = [signed(false), signed(true)];
    const area = (p: typeof plain) => ringArea(p.paths[0]!.points);
    expect(area(turned)).toBeCloseTo(-area(plain), -3);
    expect(Math.abs(area(plain))).toBeCloseTo(2_500_000_000, -7);
    expect(plain.width).toBe(120_000);
    for (const { points } of [...plain.paths, ...turned.paths])
      for (const [x, y] of points) {
        expect(x).toBeGreaterThanOrEqual(10_000);
        expect(x).toBeLessThanOrEqual(110_000);
        expect(y).toBeGreaterThanOrEqual(10_000);
      }
  });

  it('outlines written as path data come back as they were', () => {
    const ring = fc.array(fc.tuple(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: -1e6, max: 1e6 })), {
      minLength: 1,
      maxLength: 30,
    });
    fc.assert(
      fc.property(fc.array(ring, { maxLength: 5 }), (rings) => {
        expect(ringsOfPath(pathOfRings(rings as Ring[]))).toEqual(rings);
      }),
    );
  });
});
