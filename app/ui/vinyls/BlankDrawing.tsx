import { useMemo } from 'react';
import { seededRandom } from '#core/stats/index.ts';
import type { BlankKey } from '#core/vinyls/index.ts';

const INK = 'var(--ink)';
const line = {
  fill: 'none',
  stroke: INK,
  strokeWidth: 1.6,
  strokeLinecap: 'round' as const,
  strokeLinejoin: 'round' as const,
};

/** Outlines, each about 64 units wide; what is coloured is the first path. */
const outlines: Record<BlankKey, { body: string; lines?: string }> = {
  'plain-cloth': {
    body: 'M22 10L8 18L13 29L18 26V56H46V26L51 29L56 18L42 10C38 16 26 16 22 10Z',
    lines: 'M22 10C26 19 38 19 42 10',
  },
  'short-fur': { body: 'M10 14H54V52H10Z', lines: 'M10 22H54M10 46H54' },
  'long-fur': { body: 'M32 14C44 8 56 18 52 32C58 44 46 56 32 52C18 56 6 44 12 32C8 18 20 8 32 14Z' },
  mesh: { body: 'M20 10L8 20L14 28L19 25V56H45V25L50 28L56 20L44 10C38 15 26 15 20 10Z' },
  stretch: {
    body: 'M24 8H40V34C40 44 56 46 54 54C52 60 34 58 28 50C24 44 24 40 24 34Z',
    lines: 'M24 14H40M26 46C30 44 34 42 36 38',
  },
  nylon: {
    body: 'M32 10C48 10 58 24 58 36C54 32 48 32 45 36C42 32 35 32 32 36C29 32 22 32 19 36C16 32 10 32 6 36C6 24 16 10 32 10Z',
    lines: 'M32 36V52C32 58 40 58 40 52M32 6V10',
  },
  cap: {
    body: 'M10 40C10 22 22 14 34 14C46 14 52 24 52 36L62 42C56 48 46 46 40 42C30 38 18 38 10 40Z',
    lines: 'M34 14V8M34 14C28 22 26 30 26 38M52 36C46 34 42 36 40 42',
  },
  'thin-bag': { body: 'M12 26H52L48 58H16Z', lines: 'M22 26C22 10 42 10 42 26' },
  silk: {
    body: 'M10 12C24 20 40 4 54 14C46 26 58 36 52 52C38 44 26 60 12 50C20 38 6 26 10 12Z',
    lines: 'M18 20C28 26 36 18 46 22M18 42C28 38 36 46 46 42',
  },
  foam: { body: 'M18 18H46L42 56H22Z', lines: 'M18 18C22 23 42 23 46 18M20 34H44' },
  wood: { body: 'M8 16H56V48H8Z' },
  cork: { body: 'M32 10A22 22 0 1 1 31.9 10Z' },
  card: { body: 'M12 12H44L52 20V54H12Z', lines: 'M44 12V20H52M12 33H52' },
  leather: {
    body: 'M32 8C44 8 54 18 52 34C50 48 40 58 32 58C24 58 14 48 12 34C10 18 20 8 32 8Z',
    lines: 'M32 14A2 2 0 1 1 31.9 14',
  },
  glass: { body: 'M16 10H48L44 56H20Z', lines: 'M17 22C26 26 38 18 47 22' },
  plastic: { body: 'M24 6H40V16L46 24V56H18V24L24 16Z', lines: 'M24 12H40M18 32H46M18 48H46' },
  balloon: {
    body: 'M32 6C46 6 52 18 50 28C48 38 38 44 32 46C26 44 16 38 14 28C12 18 18 6 32 6Z',
    lines: 'M32 46L28 50H36ZM32 50C28 55 36 57 32 62',
  },
};

/** What the surface is like, drawn with a seed: pile, holes, grain, crumbs. */
function surface(blank: BlankKey): { strokes?: string; dots?: [number, number, number][] } {
  const random = seededRandom(blank.length * 7 + blank.charCodeAt(0));
  const spot = () => [14 + random.uniform() * 36, 16 + random.uniform() * 34] as const;
  const some = (n: number) => Array.from({ length: n }, spot);
  switch (blank) {
    case 'short-fur':
      return {
        strokes: some(60)
          .map(([x, y]) => `M${x.toFixed(1)} ${y.toFixed(1)}l1.5 -3`)
          .join(''),
      };
    case 'long-fur':
      return {
        strokes: Array.from({ length: 56 }, () => {
          const a = random.uniform() * Math.PI * 2;
          const r = 12 + random.uniform() * 8;
          const [x, y] = [32 + Math.cos(a) * r, 33 + Math.sin(a) * r];
          return `M${x.toFixed(1)} ${y.toFixed(1)}q${(Math.cos(a) * 4).toFixed(1)} ${(Math.sin(a) * 3 - 2).toFixed(1)} ${(Math.cos(a) * 8).toFixed(1)} ${(Math.sin(a) * 8).toFixed(1)}`;
        }).join(''),
      };
    case 'mesh':
      return { dots: Array.from({ length: 35 }, (_, i) => [22 + (i % 5) * 5, 26 + Math.floor(i / 5) * 4.4, 1.1]) };
    case 'wood':
      return {
        strokes: [22, 29, 36, 43]
          .map(
            (y) =>
              `M8 ${y}c12 ${(random.uniform() * 6 - 3).toFixed(1)} 34 ${(random.uniform() * 6 - 3).toFixed(1)} 48 0`,
          )
          .join(''),
      };
    case 'cork':
      return {
        dots: some(40)
          .filter(([x, y]) => Math.hypot(x - 32, y - 32) < 19)
          .map(([x, y]) => [x, y, 0.6 + random.uniform() * 1.2]),
      };
    case 'foam':
      return {
        dots: some(46)
          .filter(([x, y]) => x > 22 && x < 42 && y > 22)
          .map(([x, y]) => [x, y, 0.7]),
      };
    case 'leather':
      return {
        dots: some(50)
          .filter(([x, y]) => Math.hypot(x - 32, y - 33) < 17)
          .map(([x, y]) => [x, y, 0.5]),
      };
    default:
      return {};
  }
}

/** A blank, drawn by hand in its colour. @param hex what colour it is; that of paper when left out */
export function BlankDrawing({ blank, hex, size = 56 }: { blank: BlankKey; hex?: string | undefined; size?: number }) {
  const { body, lines } = outlines[blank];
  const { strokes, dots } = useMemo(() => surface(blank), [blank]);
  return (
    <svg className="blank-drawing" width={size} height={size} viewBox="0 0 64 64" aria-hidden="true">
      <path d={body} fill={hex ?? 'var(--sheet)'} stroke={INK} strokeWidth="1.6" strokeLinejoin="round" />
      {strokes && <path d={strokes} {...line} strokeWidth="0.9" strokeOpacity="0.55" />}
      {dots?.map(([x, y, r], i) => (
        <circle key={i} cx={x.toFixed(1)} cy={y.toFixed(1)} r={r.toFixed(1)} fill={INK} fillOpacity="0.45" />
      ))}
      {lines && <path d={lines} {...line} />}
    </svg>
  );
}

/** A film as it looks on a blank of a colour. */
export const OnBlank = ({ blank, film }: { blank: string; film: string }) => (
  <svg className="on-blank" width="48" height="48" viewBox="0 0 48 48" aria-hidden="true">
    <rect width="48" height="48" rx="6" fill={blank} stroke="var(--edge)" />
    <path d="M24 9L28.4 18.6L39 19.8L31 26.8L33.2 37L24 31.8L14.8 37L17 26.8L9 19.8L19.6 18.6Z" fill={film} />
  </svg>
);
