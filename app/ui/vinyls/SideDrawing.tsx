import type { Behaviour } from '#core/vinyls/index.ts';
import { words } from '../../messages/index.ts';

/** Which side lies on the mat, seen from the edge of the bench: mat, then carrier or backing, then vinyl, a corner lifted. */
export function SideDrawing({ hex, side }: { hex: string; side: Behaviour['side'] }) {
  const says = words.side[side].drawn;
  // Face down there is no carrier: the back of the material is seen, its face at the lifted corner.
  const bare = side === 'face down';
  return (
    <svg viewBox="0 0 280 132" width="280" role="img" aria-label={says} style={{ maxWidth: '100%', display: 'block' }}>
      <path d="M6 92L66 24H270L210 92Z" fill="var(--rule)" />
      <path d="M6 92L66 24H270L210 92V100H6Z" fill="none" stroke="var(--edge)" strokeOpacity="0.5" />
      {!bare && <path d="M30 82L76 30H250L204 82Z" fill="#fffdf8" stroke="#8b8577" />}
      <path d="M33 77L77 27H228L240 34L201 77Z" fill={bare ? '#cdbfa6' : hex} />
      <path d="M228 27L246 8Q244 24 240 34Z" fill={hex} stroke="var(--ink)" strokeOpacity="0.4" />
      <text x="6" y="124" fontSize="15" fill="var(--muted)" fontFamily="var(--text)">
        {says}
      </text>
    </svg>
  );
}
