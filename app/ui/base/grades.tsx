import type { Grade } from '#core/grades/index.ts';

/** The mark of a grade on strip and chart: – ^ ○ × ■. Drawn about (0, 0), 10 units wide, for those who see no colour. */
export function GradeMark({ grade, x, y, scale = 1 }: { grade: Grade; x: number; y: number; scale?: number }) {
  const line = { fill: 'none', stroke: '#20242b', strokeWidth: 2.2, strokeLinecap: 'square' as const };
  const shapes: Record<Grade, React.ReactNode> = {
    uncut: <path d="M-3.5 0H3.5" {...line} />,
    hangs: <path d="M-4 3.5L0 -4L4 3.5" {...line} strokeLinecap="butt" />,
    clean: <circle r="4.2" fill="#fffdf8" stroke="#20242b" strokeWidth="1.6" />,
    scored: <path d="M-3 -3L3 3M-3 3L3 -3" {...line} />,
    through: <rect x="-3.8" y="-3.8" width="7.6" height="7.6" fill="#20242b" />,
  };
  // A pale halo keeps the mark readable on hatching, dots and both grounds.
  return (
    <g transform={`translate(${x} ${y}) scale(${scale})`}>
      {grade !== 'clean' && <circle r="6.6" fill="#fffdf8" fillOpacity="0.78" />}
      {shapes[grade]}
    </g>
  );
}

/** The textures that carry grade and zone without colour, as SVG patterns under a prefix. */
export function GradePatterns({ prefix }: { prefix: string }) {
  return (
    <defs>
      <pattern id={`${prefix}-under`} width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="9" height="9" fill="var(--strip-under)" />
        <rect width="1.6" height="9" fill="var(--strip-under-line)" />
      </pattern>
      <pattern id={`${prefix}-over`} width="6" height="6" patternUnits="userSpaceOnUse">
        <rect width="6" height="6" fill="var(--strip-over)" />
        <circle cx="1.5" cy="1.5" r="1" fill="var(--strip-over-dot)" />
        <circle cx="4.5" cy="4.5" r="1" fill="var(--strip-over-dot)" />
      </pattern>
      <pattern id={`${prefix}-hangs`} width="10" height="10" patternUnits="userSpaceOnUse">
        <rect width="10" height="10" fill="var(--g-hangs)" />
        <path d="M1 7L5 3L9 7" fill="none" stroke="#20242b" strokeOpacity="0.55" strokeWidth="1.4" />
      </pattern>
      <pattern id={`${prefix}-through`} width="8" height="8" patternUnits="userSpaceOnUse">
        <rect width="8" height="8" fill="var(--g-through)" />
        <path d="M0 0L8 8M8 0L0 8" stroke="#20242b" strokeOpacity="0.45" strokeWidth="1.2" />
      </pattern>
    </defs>
  );
}

/** The textures once for a whole page, for what stands on it many times. */
export const PagePatterns = () => (
  <svg className="page-patterns" aria-hidden="true">
    <GradePatterns prefix="page" />
  </svg>
);

/** Fill of a grade: colour with its texture. */
export const gradeFill = (prefix: string, grade: Grade): string =>
  ({
    uncut: `url(#${prefix}-under)`,
    hangs: `url(#${prefix}-hangs)`,
    clean: 'var(--g-clean)',
    scored: `url(#${prefix}-over)`,
    through: `url(#${prefix}-through)`,
  })[grade];
