/** The layers of a drawing, the lowest first, each in its colour. */
export type DrawnLayer = { id: string; d: string; hex: string };

/** A drawing by itself, as it looks: not mirrored. */
export function ArtDrawing({
  width,
  height,
  layers,
  label,
  flipped = false,
}: {
  width: number;
  height: number;
  layers: readonly DrawnLayer[];
  label: string;
  flipped?: boolean;
}) {
  return (
    <svg className="art" viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
      <g transform={flipped ? `translate(${width} 0) scale(-1 1)` : undefined}>
        {layers.map((l) => (
          <path key={l.id} d={l.d} fill={l.hex} />
        ))}
      </g>
    </svg>
  );
}
