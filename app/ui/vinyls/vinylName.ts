import { vinylTypes, type VinylTypeKey } from '#core/vinyls/index.ts';
import { isolate } from '../base/format.ts';

type Named = {
  brand: string;
  name: string;
  type: VinylTypeKey;
  typeWord?: string;
  colour?: { name: string } | undefined;
};

export const vinylName = (v: Pick<Named, 'brand' | 'name'>): string =>
  isolate([v.brand, v.name].filter(Boolean).join(' '));
export const vinylTitle = (v: Named): string =>
  [vinylName(v), isolate(v.colour?.name ?? '')].filter(Boolean).join(', ');
/** What its type is called: a type of somebody's own bears its own word. */
export const typeWord = (v: Pick<Named, 'type' | 'typeWord'>): string => isolate(v.typeWord ?? vinylTypes[v.type].word);
export const vinylLine = (v: Named): string => [isolate(v.colour?.name ?? ''), typeWord(v)].filter(Boolean).join(' · ');
/** The colour of a vinyl that has none is a paper grey. */
export const vinylHex = (v: { colour?: { hex: string } | undefined }): string => v.colour?.hex ?? '#b9b2a3';
