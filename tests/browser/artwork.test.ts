import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { crossings, designs, readArtwork, ringsOfPath } from '#core/artwork/index.ts';
import { icons, united } from '../icons.ts';
import { openBrowser, type Browser } from '../../bin/lib/browser.ts';

// What we read of a drawing against what Chromium paints of it: the same picture, pixel by pixel. Source: Chromium, the browser of Debian.
let b: Browser;
beforeAll(async () => {
  b = await openBrowser(() => 'data:text/html,');
  await b.driver.get('data:text/html,<title>drawings</title>');
});
afterAll(() => b?.close());

const svg = (body: string, head = 'viewBox="-60 -60 220 220"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${head}>${body}</svg>`;
/** One file a feature. */
const features: Record<string, string> = {
  'view box with an offset': svg(
    '<rect x="-40" y="-30" width="60" height="40" fill="#c33"/>',
    'viewBox="-50 -50 100 100"',
  ),
  'view box kept in the middle': svg(
    '<rect width="100" height="50" fill="#384"/>',
    'width="300" height="300" viewBox="0 0 100 50"',
  ),
  'view box stretched': svg(
    '<circle cx="50" cy="25" r="20" fill="#384"/>',
    'width="300" height="300" viewBox="0 0 100 50" preserveAspectRatio="none"',
  ),
  millimetres: svg('<path d="M10 10h60v30h-60z" fill="#226"/>', 'width="100mm" height="100mm" viewBox="0 0 100 100"'),
  'nested transforms': svg(
    '<g transform="translate(50 50) rotate(30)"><g transform="scale(1.4 .6) skewX(20)"><rect x="-20" y="-20" width="40" height="40" fill="#a0a"/></g></g>',
  ),
  'matrix and rotate about a point': svg(
    '<rect x="20" y="20" width="30" height="40" transform="matrix(1 .2 -.3 1 10 0) rotate(25 40 40)" fill="#07a"/>',
  ),
  'use with an offset': svg(
    '<defs><path id="p" d="M0 0h20v20h-20z"/></defs><use href="#p" x="10" y="10" fill="#c00"/><use xlink:href="#p" x="60" y="50" fill="#00c"/>',
  ),
  'symbol with a view box': svg(
    '<symbol id="s" viewBox="0 0 10 20"><path d="M0 0h10v20h-10z"/></symbol><use href="#s" x="20" y="20" width="50" height="60" fill="#390"/>',
  ),
  'groups hand colours down': svg(
    '<g fill="#840"><rect width="30" height="30"/><g fill="#048"><rect x="40" width="30" height="30"/><rect x="40" y="40" width="30" height="30" fill="inherit"/></g></g>',
  ),
  classes: svg(
    '<style>.a{fill:#c30} .b{fill:#03c} rect.b{stroke:#000;stroke-width:4}</style><rect class="a" x="5" y="5" width="40" height="40"/><rect class="b" x="55" y="55" width="30" height="30"/>',
  ),
  'one rule over another': svg(
    '<style>#x{fill:#0a0}.k{fill:#a00}g .k{fill:#00a}</style><g><rect class="k" width="40" height="40"/><rect id="x" class="k" x="50" width="40" height="40"/></g>',
  ),
  'style over attribute': svg('<rect width="60" height="60" fill="#f00" style="fill:#00f"/>'),
  'rounded rectangle': svg('<rect x="10" y="20" width="80" height="50" rx="15" ry="22" fill="#555"/>'),
  'circle and ellipse': svg(
    '<circle cx="30" cy="30" r="25" fill="#c60"/><ellipse cx="65" cy="70" rx="30" ry="18" fill="#06c"/>',
  ),
  'polygon and polyline': svg(
    '<polygon points="10,90 50,10 90,90" fill="#393"/><polyline points="5,5 30,5 30,30" fill="#933"/>',
  ),
  'cubic curves': svg('<path d="M10 60C40 0 65 0 95 60S80 95 10 85z" fill="#709"/>'),
  'quadratic curves': svg('<path d="M10 50Q52 0 90 50T10 70z" fill="#079"/>'),
  arcs: svg('<path d="M20 50A30 20 30 1 1 80 60A20 30 0 0 1 20 50z" fill="#970"/>'),
  'relative path data': svg('<path d="m20 20l30 0 0 30-30 0zm40 40h20v20h-20z" fill="#257"/>'),
  'even-odd star': svg('<path fill-rule="evenodd" d="M50 5L79 95 3 39 97 39 21 95z" fill="#725"/>'),
  'non-zero star': svg('<path d="M50 5L79 95 3 39 97 39 21 95z" fill="#725"/>'),
  'pen with mitres': svg('<path d="M15 80L50 20 85 80" fill="none" stroke="#136" stroke-width="10"/>'),
  'pen with round joins and caps': svg(
    '<path d="M15 80L50 20 85 80" fill="none" stroke="#136" stroke-width="14" stroke-linejoin="round" stroke-linecap="round"/>',
  ),
  'pen with bevels and square caps': svg(
    '<path d="M15 75L50 20 85 75" fill="none" stroke="#631" stroke-width="14" stroke-linejoin="bevel" stroke-linecap="square"/>',
  ),
  'a mitre that is cut off': svg(
    '<path d="M20 90L50 20 60 90" fill="none" stroke="#631" stroke-width="10" stroke-miterlimit="2"/>',
  ),
  dashes: svg(
    '<path d="M10 50C30 0 70 100 90 50" fill="none" stroke="#a11" stroke-width="8" stroke-dasharray="14 6 4 6" stroke-dashoffset="5"/>',
  ),
  'a closed pen': svg('<path d="M20 20h60v60h-60z" fill="none" stroke="#175" stroke-width="9"/>'),
  'a pen that is stretched': svg(
    '<g transform="translate(50 50) scale(2 .8)"><circle r="20" fill="none" stroke="#517" stroke-width="6"/></g>',
  ),
  'fill and pen': svg('<circle cx="50" cy="50" r="30" fill="#fd0" stroke="#a50" stroke-width="12"/>'),
  'a nested drawing': svg(
    '<svg x="20" y="20" width="60" height="40" viewBox="0 0 30 20"><rect width="30" height="20" fill="#08a"/><circle cx="15" cy="10" r="6" fill="#fff"/></svg>',
  ),
  'an entity of a drawing program':
    '<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY c "#0a6">]>' +
    svg('<rect x="10" y="10" width="70" height="60" fill="&c;"/>'),
  'what is hidden': svg(
    '<rect width="60" height="60" fill="#444"/><g display="none"><rect width="99" height="99"/></g><rect x="60" y="60" width="30" height="30" visibility="hidden"/>',
  ),
  'above and below in turn': svg(
    '<rect width="80" height="80" fill="#c00"/><rect x="20" y="20" width="40" height="40" fill="#0c0"/><rect x="30" y="30" width="20" height="20" fill="#c00"/>',
  ),
  ...Object.fromEntries(designs.map((d) => [`ours: ${d.name}`, d.svg])),
};

/** Both pictures cropped to what is painted, on the same number of pixels; the share of pixels that differ. */
const COMPARE = `
  const [original, ours, done] = arguments;
  const draw = (text) => new Promise((ready, failed) => {
    const image = new Image();
    image.onload = () => {
      const size = 1600, canvas = document.createElement('canvas');
      const k = size / Math.max(image.width, image.height);
      canvas.width = Math.round(image.width * k); canvas.height = Math.round(image.height * k);
      const ctx = canvas.getContext('2d');
      ctx.drawImage(image, 0, 0, canvas.width, canvas.height);
      ready({ canvas, data: ctx.getImageData(0, 0, canvas.width, canvas.height) });
    };
    image.onerror = () => failed(new Error('not drawn'));
    image.src = 'data:image/svg+xml;charset=utf-8,' + encodeURIComponent(text);
  });
  const crop = ({ canvas, data }) => {
    let l = 1e9, t = 1e9, r = -1, b = -1;
    for (let y = 0; y < data.height; y++) for (let x = 0; x < data.width; x++)
      if (data.data[(y * data.width + x) * 4 + 3] > 127) { l = Math.min(l, x); r = Math.max(r, x); t = Math.min(t, y); b = Math.max(b, y); }
    const out = document.createElement('canvas'); out.width = 400; out.height = 400;
    const ctx = out.getContext('2d'); ctx.imageSmoothingQuality = 'high';
    ctx.fillStyle = '#fff'; ctx.fillRect(0, 0, 400, 400);
    ctx.drawImage(canvas, l, t, r - l + 1, b - t + 1, 0, 0, 400, 400);
    return { pixels: ctx.getImageData(0, 0, 400, 400).data, shape: (r - l + 1) / (b - t + 1) };
  };
  Promise.all([draw(original), draw(ours)]).then((both) => {
    const [p, q] = both.map(crop);
    let differ = 0;
    for (let i = 0; i < p.pixels.length; i += 4)
      if ([0, 1, 2].some((c) => Math.abs(p.pixels[i + c] - q.pixels[i + c]) > 96)) differ++;
    done({ differ: differ / 160000, shapes: Math.abs(Math.log(p.shape / q.shape)) });
  }, (e) => done({ error: String(e) }));
`;

describe('drawings as Chromium paints them', () => {
  test('thirty features and our own drawings: at most one pixel in two hundred differs', async () => {
    expect(Object.keys(features).length).toBeGreaterThanOrEqual(30);
    const worst: [string, number][] = [];
    for (const [name, text] of Object.entries(features)) {
      const art = readArtwork(text);
      const ours = `<svg xmlns="http://www.w3.org/2000/svg" width="${art.width / 1000}" height="${art.height / 1000}" viewBox="0 0 ${art.width} ${art.height}">${art.layers.map((l) => `<path d="${l.d}" fill="${l.hex}"/>`).join('')}</svg>`;
      // Chromium draws an image that has no size at 300 × 150: it is given one.
      const sized = /<svg[^>]* width=/.test(text) ? text : text.replace('<svg ', '<svg width="400" height="400" ');
      const seen = await b.driver.executeAsyncScript<{ differ: number; shapes: number; error?: string }>(
        COMPARE,
        sized,
        ours,
      );
      expect(seen.error, name).toBeUndefined();
      expect(seen.shapes, `${name}: as wide for its height`).toBeLessThan(0.012);
      expect.soft(seen.differ, name).toBeLessThanOrEqual(0.005);
      worst.push([name, seen.differ]);
    }
    worst.sort((a, c) => c[1] - a[1]);
    console.info(
      `pixels that differ, the worst of ${worst.length}: ${worst
        .slice(0, 3)
        .map(([n, d]) => `${n} ${(100 * d).toFixed(2)} %`)
        .join(', ')}`,
    );
  });

  test('flattened lines are as long as Chromium says the paths are', async () => {
    const paths = [
      'M10 60C40 0 65 0 95 60S80 95 10 85z',
      'M10 50Q52 0 90 50T10 70z',
      'M20 50A30 20 30 1 1 80 60A20 30 0 0 1 20 50z',
      'M50 5L79 95 3 39 97 39 21 95z',
    ];
    for (const d of paths.slice(0, 3)) {
      const art = readArtwork(`<svg viewBox="0 0 100 100"><path d="${d}"/></svg>`);
      const lengths = await b.driver.executeScript<[number, { width: number; height: number }]>(
        `const s = document.createElementNS('http://www.w3.org/2000/svg', 'svg'); const p = document.createElementNS('http://www.w3.org/2000/svg', 'path');
         p.setAttribute('d', arguments[0]); s.append(p); document.body.append(s); const box = p.getBBox(); return [p.getTotalLength(), { width: box.width, height: box.height }];`,
        d,
      );
      const unit = Math.max(lengths[1].width, lengths[1].height) / 1_000_000;
      expect(Math.abs((art.layers[0]!.length * unit) / lengths[0] - 1)).toBeLessThan(0.003);
    }
  });
});

test('the length of the cut of icons whose shapes do not overlap is what Chromium says (getTotalLength), within 0.2 %', async () => {
  const apart = icons(215)
    // The one that Paper.js itself throws on: what overlaps in it nobody says.
    .filter(({ name }) => name !== 'GitHub')
    .map(({ name, d }) => ({ name, d, theirs: united(d) }))
    // What overlaps is cut round once: Paper.js speaks for those.
    .filter(({ theirs }) => Math.abs(theirs.drawn / theirs.length - 1) < 1e-3);
  expect(apart.length).toBeGreaterThanOrEqual(200);
  const lengths = await b.driver.executeScript<number[]>(
    `return arguments[0].map((d) => { const p = document.createElementNS('http://www.w3.org/2000/svg', 'path'); p.setAttribute('d', d); return p.getTotalLength(); })`,
    apart.map((a) => a.theirs.closed),
  );
  const off = apart.map(({ name, d, theirs }, i) => {
    const [layer] = readArtwork(`<svg viewBox="0 0 24 24"><path d="${d}"/></svg>`).layers;
    return { name, off: Math.abs((layer!.length * theirs.longer) / 1e6 / lengths[i]! - 1) };
  });
  expect(off.filter((o) => o.off > 0.002)).toEqual([]);
  console.info(
    `length of ${off.length} icons: the worst ${(100 * Math.max(...off.map((o) => o.off))).toFixed(3)} % off`,
  );
});

test('a pen covers what Chromium says it covers (isPointInStroke): joins, caps, mitres, dashes; 300 points each', async () => {
  const pens = ['butt', 'round', 'square'].flatMap((cap) =>
    ['miter', 'round', 'bevel'].flatMap((join) =>
      ['', '9 5 2 5'].map((dash) => ({
        cap,
        join,
        dash,
        width: 3 + 2 * cap.length + join.length,
        limit: dash ? 1.5 : 6,
      })),
    ),
  );
  const lines = ['M15 80L50 20 85 80', 'M20 20h60v60h-60z', 'M10 50C30 0 70 100 90 50', 'M20 90L50 20 60 90 90 15'];
  let seed = 11;
  const next = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647;
  let asked = 0;
  const wrong: object[] = [];
  for (const [n, pen] of pens.entries()) {
    const d = lines[n % lines.length]!;
    const attributes = `fill="none" stroke="#123" stroke-width="${pen.width}" stroke-linecap="${pen.cap}" stroke-linejoin="${pen.join}" stroke-miterlimit="${pen.limit}"${pen.dash ? ` stroke-dasharray="${pen.dash}"` : ''}`;
    const art = readArtwork(`<svg viewBox="0 0 100 100"><path d="${d}" ${attributes}/></svg>`);
    const points = Array.from({ length: 300 }, () => [100 * next(), 100 * next()] as const);
    // Theirs in the units of the file; ours begin at the corner of what is drawn: a corner of the box they say is the same place.
    const { inside, box } = await b.driver.executeScript<{
      inside: boolean[];
      box: { x: number; y: number; width: number; height: number };
    }>(
      `const s = document.createElementNS('http://www.w3.org/2000/svg', 'svg'); s.innerHTML = '<path d="' + arguments[0] + '" ' + arguments[1] + '/>';
       document.body.append(s); const p = s.firstChild;
       const c = document.createElement('canvas'); c.width = c.height = 2400; const x = c.getContext('2d'); x.scale(12, 12); x.translate(50, 50);
       x.lineWidth = ${pen.width}; x.lineCap = '${pen.cap}'; x.lineJoin = '${pen.join}'; x.miterLimit = ${pen.limit}; x.setLineDash([${pen.dash.split(' ').join(',')}]); x.stroke(new Path2D(arguments[0]));
       const data = x.getImageData(0, 0, 2400, 2400).data; let l = 1e9, t = 1e9, r = -1, b = -1;
       for (let i = 3; i < data.length; i += 4) if (data[i] > 127) { const k = (i - 3) / 4, px = k % 2400, py = (k - px) / 2400; l = Math.min(l, px); r = Math.max(r, px); t = Math.min(t, py); b = Math.max(b, py); }
       const at = (v) => v / 12 - 50;
       const out = { inside: arguments[2].map(([x, y]) => { const q = s.createSVGPoint(); q.x = x; q.y = y; return p.isPointInStroke(q); }), box: { x: at(l), y: at(t), width: (r + 1 - l) / 12, height: (b + 1 - t) / 12 } };
       s.remove(); return out;`,
      d,
      attributes,
      points,
    );
    const unit = Math.max(box.width, box.height) / 1e6;
    const rings = ringsOfPath(art.layers[0]!.d);
    points.forEach(([x, y], i) => {
      const at = [(x - box.x) / unit, (y - box.y) / unit] as const;
      // Within a pixel of an edge neither is wrong.
      const near = rings.some((ring) =>
        ring.some((p, k) => distance(at, p, ring[(k + 1) % ring.length]!) * unit < 0.15),
      );
      if (near) return;
      asked++;
      if (
        rings.reduce(
          (in1, ring) => (crossings(ring, at[1] + 0.37).filter((c) => c < at[0]).length % 2 ? !in1 : in1),
          false,
        ) !== inside[i]
      )
        wrong.push({ d, ...pen, x, y, theirs: inside[i] });
    });
  }
  expect(asked).toBeGreaterThan(4_000);
  expect(wrong).toEqual([]);
});

type Place = readonly [number, number];
/** How far a point lies from a segment. */
function distance([x, y]: Place, [ax, ay]: Place, [bx, by]: Place): number {
  const [dx, dy] = [bx - ax, by - ay];
  const t = Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(ax + t * dx - x, ay + t * dy - y);
}
