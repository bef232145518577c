import { isolate } from './format.ts';
import type { VinylTypeKey } from '#core/vinyls/index.ts';
import { vinylTypes } from '#core/vinyls/index.ts';

type Named = { brand: string; name: string; type: VinylTypeKey; colour?: { name: string } | undefined };

export const vinylName = (v: Pick<Named, 'brand' | 'name'>): string =>
  isolate([v.brand, v.name].filter(Boolean).join(' '));
export const vinylTitle = (v: Named): string =>
  [vinylName(v), isolate(v.colour?.name ?? '')].filter(Boolean).join(', ');
export const vinylLine = (v: Named): string =>
  [isolate(v.colour?.name ?? ''), vinylTypes[v.type].word].filter(Boolean).join(' · ');
/** The colour of a vinyl that has none is a paper grey. */
export const vinylHex = (v: { colour?: { hex: string } | undefined }): string => v.colour?.hex ?? '#b9b2a3';
