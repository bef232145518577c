import type { ReactNode } from 'react';
import { seededRandom, seedFromText } from '#core/stats/index.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';

/** Lighter than what lies below (positive) or darker (negative), by a share: white or black that lets the rest through. */
function lit(what: 'fill' | 'stroke' | 'stop', by: number) {
  const colour = by > 0 ? '#fff' : '#000';
  const share = Math.abs(by);
  if (what === 'stop') return { stopColor: colour, stopOpacity: share };
  return what === 'fill' ? { fill: colour, fillOpacity: share } : { stroke: colour, strokeOpacity: share };
}

/**
 * How each type looks in the hand: the roll is found by looking. 64 × 64 units, in light and shade over whatever colour lies below, so that
 * one picture serves every colour of a type.
 * @param id a name for the gradients, another one for each drawing on a page
 */
export function Texture({ type, id }: { type: VinylTypeKey; id: string }): ReactNode {
  return shapes(type, penOf(type), id);
}

/** What a texture is drawn with: numbers that are the same each time for a type. */
function penOf(type: VinylTypeKey) {
  const random = seededRandom(seedFromText(type));
  const u = (low = 0, high = 64) => low + (high - low) * random.uniform();
  const r = (n: number) => Number(n.toFixed(1));
  const many = (n: number, draw: (i: number) => ReactNode) => Array.from({ length: n }, (_, i) => draw(i));
  const speckle = (n: number, size: number, tones: number[]) =>
    many(n, (i) => {
      const s = r(u(size * 0.5, size * 1.3));
      return (
        <rect
          key={i}
          x={r(u())}
          y={r(u())}
          width={s}
          height={s}
          {...lit('fill', tones[i % tones.length]!)}
          transform={`rotate(${r(u(0, 90))} ${r(u())} ${r(u())})`}
        />
      );
    });
  return { u, r, many, speckle };
}

function shapes(type: VinylTypeKey, { u, r, many, speckle }: ReturnType<typeof penOf>, id: string): ReactNode {
  switch (type) {
    case 'glitter':
    case 'glitter-adhesive':
      return speckle(150, 2.2, [0.65, -0.45, 0.35, 0.85, -0.25]);
    case 'smooth-glitter':
      return speckle(170, 1.1, [0.55, -0.3, 0.35]);
    case 'glitter-printable':
      return (
        <>
          {many(25, (i) => (
            <circle
              key={i}
              cx={6 + (i % 5) * 13}
              cy={6 + Math.floor(i / 5) * 13}
              r={r(u(2.5, 4.5))}
              fill={['#d2557f', '#3f9fb8', '#e0b03f', '#6f6bb5'][i % 4]}
            />
          ))}
          {speckle(90, 1.6, [0.7, -0.25])}
        </>
      );
    case 'flock':
      return many(240, (i) => {
        const x = u();
        const y = u();
        return (
          <path
            key={i}
            d={`M${r(x)} ${r(y)}l${r(u(-1.2, 1.2))} ${r(u(2.5, 5))}`}
            {...lit('stroke', [-0.28, 0.22, -0.14, 0.12][i % 4]!)}
            strokeWidth="0.9"
          />
        );
      });
    case 'puff':
    case 'metallic-puff':
      return (
        <>
          <radialGradient id={id} cx="0.36" cy="0.3" r="0.75">
            <stop offset="0" {...lit('stop', type === 'puff' ? 0.45 : 0.8)} />
            <stop offset="0.45" {...lit('stop', 0.08)} />
            <stop offset="1" {...lit('stop', -0.4)} />
          </radialGradient>
          {many(16, (i) => (
            <rect
              key={i}
              x={1.5 + (i % 4) * 16}
              y={1.5 + Math.floor(i / 4) * 16}
              width="13"
              height="13"
              rx="5.5"
              fill={`url(#${id})`}
            />
          ))}
        </>
      );
    case 'holographic':
      return (
        <>
          <linearGradient id={id} x1="0" y1={r(u(0, 0.3))} x2="1" y2="1">
            {['#7fe3cf', '#b79cf2', '#f5a6cf', '#ffe18c', '#7cc8f4'].map((c, i) => (
              <stop key={c} offset={i / 4} stopColor={c} />
            ))}
          </linearGradient>
          <rect width="64" height="64" fill={`url(#${id})`} fillOpacity="0.78" />
          <path d={`M${r(u(4, 24))} 0L${r(u(40, 64))} 64`} stroke="#ffffff" strokeOpacity="0.4" strokeWidth="7" />
        </>
      );
    case 'foil':
      return (
        <>
          <linearGradient id={id} x1="0" y1="0" x2="1" y2="0.7">
            {[0.55, -0.25, 0.75, -0.35, 0.3].map((s, i) => (
              <stop key={i} offset={i / 4} {...lit('stop', s)} />
            ))}
          </linearGradient>
          <rect width="64" height="64" fill={`url(#${id})`} />
        </>
      );
    case 'reflective':
      return many(11, (i) =>
        many(11, (j) => (
          <path
            key={`${i}-${j}`}
            d={`M${i * 6 + (j % 2) * 3} ${j * 6}l3 1.7v3.4l-3 1.7l-3 -1.7v-3.4z`}
            fill="none"
            {...lit('stroke', 0.45)}
            strokeWidth="0.8"
          />
        )),
      );
    case 'printable':
      return many(64, (i) => (
        <circle
          key={i}
          cx={4 + (i % 8) * 8}
          cy={4 + Math.floor(i / 8) * 8}
          r={r(u(1.4, 3.2))}
          fill={['#c94f77', '#3b93ab', '#d6a536', '#57565f'][Math.floor(u(0, 4))]}
        />
      ));
    case 'matless':
      return many(6, (i) => <rect key={i} x={3} y={i * 11 + 3} width="3" height="5" rx="1.5" {...lit('fill', 0.55)} />);
    case 'low-heat':
      return many(3, (i) => (
        <path
          key={i}
          d={`M-4 ${18 + i * 16}q9 -9 18 0t18 0t18 0t18 0`}
          fill="none"
          {...lit('stroke', 0.28)}
          strokeWidth="2.5"
        />
      ));
    case 'budget-adhesive':
      return many(8, (i) => (
        <g key={i}>
          {many(8, (j) =>
            (i + j) % 2 === 0 ? <rect key={j} x={i * 8} y={j * 8} width="8" height="8" {...lit('fill', 0.42)} /> : null,
          )}
        </g>
      ));
    case 'adhesive':
      return <path d="M0 64V44L44 0H64Z" {...lit('fill', 0.16)} />;
    case 'faux-leather':
      return many(90, (i) => {
        const x = u();
        const y = u();
        return (
          <path
            key={i}
            d={`M${r(x)} ${r(y)}q${r(u(1, 4))} ${r(u(-3, 3))} ${r(u(3, 7))} ${r(u(-2, 3))}`}
            fill="none"
            {...lit('stroke', i % 3 ? -0.3 : 0.2)}
            strokeWidth="0.9"
          />
        );
      });
    case 'stencil':
      return (
        <g {...lit('fill', -0.35)}>
          <path d="M10 14h18v10H10zM36 14h18v10H36zM10 40h18v10H10zM36 40h18v10H36z" />
        </g>
      );
    case 'smooth':
      return <path d="M0 64L64 0V18L18 64Z" {...lit('fill', 0.16)} />;
  }
}
