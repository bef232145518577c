import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { Texture } from './Texture.tsx';

type Standing = 'draft' | 'tried' | 'proven' | 'doubted' | 'retired';
type Props = { type: VinylTypeKey; hex: string; size?: number; standing?: Standing };

/** The edition of the textures: browsers keep them for a year, so another drawing needs another name. */
const EDITION = 1;
export const textureFile = (type: VinylTypeKey): string => `${EDITION}-${type}.svg`;

/** The edge of a swatch by its standing: flat (draft), a corner lifted (tried), gone clean (proven), torn (doubted). */
const edges: Record<Standing, string> = {
  draft: 'M0 0H64V64H0Z',
  retired: 'M0 0H64V64H0Z',
  tried: 'M0 0H48L64 16V64H0Z',
  proven: 'M0 0H44L64 20V64H0Z',
  doubted: 'M0 0H42L46 6L51 7L53 12L58 13L60 19L64 22V64H0Z',
};

/**
 * A piece of the vinyl, in its own colour. Its corner says how far it is known; the word stands beside it wherever it is shown. The texture
 * is one picture a type, kept by the browser: a row of a list carries a colour and an edge.
 */
export function Swatch({ type, hex, size = 56, standing = 'draft' }: Props) {
  return (
    <svg
      className={`swatch ${standing}`}
      width={size}
      height={size}
      viewBox="0 0 64 64"
      role="img"
      aria-label={vinylTypes[type].word}
      style={{ background: `${hex} url(/swatches/${textureFile(type)}) 0/100%` }}
    >
      {standing === 'tried' && <path className="fold" d="M48 0L64 16H48Z" />}
      <path d={edges[standing]} />
    </svg>
  );
}

/** The corner alone, as a sign beside its word: how far a number is known. */
export const Corner = ({ standing }: { standing: Standing }) => (
  <svg className={`corner ${standing}`} width="22" height="22" viewBox="-3 -3 70 70" aria-hidden="true">
    <path d={edges[standing]} />
    {standing === 'tried' && <path d="M48 0L64 16H48Z" />}
  </svg>
);

/** The same drawn whole, with its texture in it: for pictures that leave the site. */
export function SwatchDrawing({ type, hex, standing = 'draft', edge }: Omit<Props, 'size'> & { edge: string }) {
  return (
    <svg width="200" height="200" viewBox="0 0 64 64">
      <clipPath id="edge">
        <path d={edges[standing]} />
      </clipPath>
      <g clipPath="url(#edge)">
        <rect width="64" height="64" fill={hex} />
        <Texture type={type} id="texture" />
      </g>
      {standing === 'tried' && <path d="M48 0L64 16H48Z" fill="#fffdf8" stroke="#8b8577" />}
      <path d={edges[standing]} fill="none" stroke={edge} strokeWidth="0.8" strokeOpacity="0.6" />
    </svg>
  );
}
