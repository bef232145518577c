import { readArtwork, type Artwork } from '#core/artwork/index.ts';
import { FontError, letterAll, letteringSvg, openFace } from '#core/lettering/index.ts';

/** Names to be drawn off the main thread: the files of a face, and boxes of one size, µm. */
export type LetteringAsked = {
  files: ArrayBuffer[];
  texts: string[];
  box: { width: number; height: number };
  oneSize: boolean;
  /** The least line that letters are to hold each other by, µm. */
  join?: number | undefined;
  hex: string;
};
/** A name as a drawing, or what is wrong with it. */
export type NameDrawn =
  | { says: string; svg: string; artwork: Artwork; widthUm: number; outlines: number; missing: string[] }
  | { says: string; wrong: string };
export type LetteringSaid = { names: NameDrawn[] } | { wrong: string };

// A thin door: a font is read here, where it can be given up, and nothing of it leaves the browser.
self.onmessage = ({ data }: MessageEvent<LetteringAsked>) => {
  const say = (said: LetteringSaid) => self.postMessage(said);
  try {
    const face = openFace(data.files.map((f) => new Uint8Array(f)));
    const names = letterAll(face, data.texts, data.box, data).map((one): NameDrawn => {
      if ('wrong' in one) return one;
      const svg = letteringSvg(one, data.hex, one.widthUm);
      const { says, widthUm, outlines, missing } = one;
      return { says, svg, artwork: readArtwork(svg), widthUm, outlines, missing };
    });
    say({ names });
  } catch (error) {
    if (!(error instanceof FontError)) throw error;
    say({ wrong: `${error.message}.` });
  }
};
