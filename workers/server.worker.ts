import { v7 as uuidv7 } from 'uuid';
import type { CutterModel } from '#core/controls/index.ts';
import { ArtworkError, mendedAll, readArtwork, type Artwork, type Mend } from '#core/artwork/index.ts';
import { judgeTable, mendTable, seeTable, TableError, type JudgeInput } from '#core/tables/index.ts';
import { readEvenness, type EvennessQuestion } from '#core/evenness/index.ts';
import { PackError, readPack } from '#core/pack/index.ts';
import { swatch, type SwatchInput } from '#core/press/index.ts';
import { planCoupon, type PlanInput } from '#core/planner/index.ts';
import { shelfKeeper, type ShelfAsked } from '#core/transfer/index.ts';
import { fit, type FitInput } from '#core/window/index.ts';
import { drawPaper, type Paper } from './paper.ts';

// A thin door for the server's pool of threads: what would hold up its event loop.
export type Asked =
  | { fit: FitInput }
  | { plan: PlanInput }
  | { evenness: EvennessQuestion }
  | { swatch: SwatchInput }
  | { shelf: ShelfAsked }
  | { pack: Uint8Array }
  | { table: { name: string; bytes: Uint8Array; model: CutterModel | undefined } }
  | { mend: { content: string; mended: ReadonlyMap<number, readonly string[]> } }
  | { judge: { input: JudgeInput; ready: boolean } }
  | { paper: Paper }
  | { artwork: string }
  | { mends: { artwork: Artwork; mends: readonly Mend[]; widthUm: number } };

const askShelf = shelfKeeper();

export default function compute(asked: Asked) {
  if ('fit' in asked) return fit(asked.fit);
  if ('plan' in asked) return planCoupon(asked.plan);
  if ('shelf' in asked) return askShelf(asked.shelf);
  if ('swatch' in asked) return swatch(asked.swatch);
  if ('evenness' in asked) return readEvenness(asked.evenness);
  if ('judge' in asked) return judgeTable(asked.judge.input, asked.judge.ready ? uuidv7 : undefined);
  if ('pack' in asked) return told(PackError, () => ({ pack: readPack(asked.pack) }));
  if ('mend' in asked) return mendTable(asked.mend.content, asked.mend.mended);
  if ('table' in asked)
    return told(TableError, () => ({ table: seeTable(asked.table.name, asked.table.bytes, asked.table.model) }));
  if ('paper' in asked) return drawPaper(asked.paper);
  if ('artwork' in asked) return told(ArtworkError, () => ({ artwork: readArtwork(asked.artwork) }));
  if ('mends' in asked)
    return told(ArtworkError, () => {
      const { svg, widthUm } = mendedAll(asked.mends.artwork, asked.mends.mends, asked.mends.widthUm);
      return { svg, widthUm };
    });
  throw new Error(`nobody computes that here: ${Object.keys(asked satisfies never).join()}`);
}

/** Errors lose their kind between threads: what is wrong with a file comes back as a word. */
function told<T>(kind: new (message: string) => Error, work: () => T): T | { wrong: string } {
  try {
    return work();
  } catch (error) {
    if (error instanceof kind) return { wrong: error.message };
    throw error;
  }
}
