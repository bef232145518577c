import {
  ArtworkError,
  layerPairs,
  mended,
  outlineOfAll,
  readArtwork,
  wasteOf,
  type Artwork,
  type LayerPair,
  type LeastOutline,
  type Mend,
  type WeedingLines,
} from '#core/artwork/index.ts';

/** What is asked of a drawing off the main thread. Lengths in µm. */
export type ArtworkAsked =
  | { read: string }
  /** The thinnest outline below everything at a size, for a film's least line: round, and with mitred corners. */
  | { outline: { artwork: Artwork; widthUm: number; line: number } }
  /** Lines that cut the waste of each layer into strips. */
  | { waste: { artwork: Artwork; widthUm: number } }
  /** Layers pair by pair; how far each grows in the press, the lowest first. */
  | { pairs: { artwork: Artwork; growth: number[]; widthUm: number } }
  | { mend: { artwork: Artwork; mend: Mend; widthUm: number } };

export type ArtworkDone = {
  artwork?: Artwork;
  svg?: string;
  widthUm?: number;
  outline?: Omit<LeastOutline, 'rings'> & { mitred: number };
  waste?: Record<string, WeedingLines>;
  pairs?: LayerPair[];
};
/** How far it is, and at its end what came of it. */
export type ArtworkSaid = { share: number } | { done: ArtworkDone } | { wrong: string };

const say = (said: ArtworkSaid) => self.postMessage(said);

function answer(asked: ArtworkAsked): ArtworkDone {
  let told = 0;
  const read = (svg: string) =>
    readArtwork(svg, (share) => {
      if (share < told + 0.02) return;
      told = share;
      say({ share });
    });
  if ('read' in asked) return { artwork: read(asked.read), svg: asked.read };
  if ('mend' in asked) {
    const { artwork, mend, widthUm } = asked.mend;
    const after = mended(artwork, mend, widthUm);
    return { ...after, artwork: read(after.svg) };
  }
  if ('pairs' in asked) return { pairs: layerPairs(asked.pairs.artwork, asked.pairs.growth, asked.pairs.widthUm) };
  if ('waste' in asked) return { waste: wasteOf(asked.waste.artwork, asked.waste.widthUm) };
  const { artwork, widthUm, line } = asked.outline;
  return { outline: outlineOfAll(artwork, line, widthUm) };
}

// A thin door: a drawing is read and mended here, so that whoever waits sees how far it is, can stop it, and goes on meanwhile.
self.onmessage = ({ data }: MessageEvent<ArtworkAsked>) => {
  try {
    say({ done: answer(data) });
  } catch (error) {
    if (!(error instanceof ArtworkError)) throw error;
    say({ wrong: error.message });
  }
};
