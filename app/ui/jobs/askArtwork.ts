import type { ArtworkAsked, ArtworkDone, ArtworkSaid } from '../../../workers/artwork.worker.ts';
import { askWorker } from '../base/askWorker.ts';

/** Asks something of a drawing in a worker of its own. */
export function askArtwork(asked: ArtworkAsked, onShare: (share: number) => void = () => undefined) {
  const worker = new Worker(new URL('../../../workers/artwork.worker.ts', import.meta.url), { type: 'module' });
  return askWorker<ArtworkSaid, ArtworkDone>(worker, asked, (said) => {
    if ('share' in said) return void onShare(said.share);
    return 'wrong' in said ? { wrong: `${said.wrong}.` } : said;
  });
}
