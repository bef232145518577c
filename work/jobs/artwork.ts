import { createHash } from 'node:crypto';
import { artworkLimits, designs, writeSvg, type Artwork } from '#core/artwork/index.ts';
import { db } from '#store/base/db.ts';
import * as store from '#store/jobs/jobs.ts';
import { artworkOnThread } from '#work/base/compute.ts';
import { Invalid, NotFound } from '#work/base/errors.ts';

/** Raise when drawings are read otherwise: they are read again when somebody looks. */
const ARTWORK_VERSION = 'a3';

const hashOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest();

/** Keeps a drawing under its hash, read once. @throws Invalid at "file", one line that says what is wrong with it */
export async function keepArtwork(svg: string): Promise<{ hash: string; artwork: Artwork }> {
  const bytes = Buffer.from(svg, 'utf8');
  if (bytes.length === 0) throw new Invalid({ file: 'Choose an SVG drawing, paste one, or take one of ours.' });
  if (bytes.length > artworkLimits.bytes)
    throw new Invalid({
      file: `The drawing has ${Math.ceil(bytes.length / 1e6)} MB; ${artworkLimits.bytes / 1e6} MB fit.`,
    });
  const hash = hashOf(bytes);
  const known = await store.artworkOf(db(), hash.toString('hex'));
  if (known?.version === ARTWORK_VERSION) {
    await store.touchArtwork(db(), hash.toString('hex'));
    return { hash: hash.toString('hex'), artwork: known.summary };
  }
  const artwork = await artworkOnThread(svg);
  await store.insertArtwork(db(), { hash, bytes, summary: artwork, version: ARTWORK_VERSION });
  return { hash: hash.toString('hex'), artwork };
}

/** A drawing that no plan shows is kept so long, days: whoever brought it may yet take it. */
const UNUSED_DAYS = 30;
export const sweepArtworks = () => store.sweepArtworks(db(), UNUSED_DAYS);

/** A drawing that was kept. @throws NotFound */
export async function artworkOf(hash: string): Promise<Artwork> {
  const row = await store.artworkOf(db(), hash);
  if (!row) throw new NotFound('No such drawing.');
  if (row.version === ARTWORK_VERSION) return row.summary;
  const { bytes } = (await store.artworkBytes(db(), hash))!;
  return (await keepArtwork(bytes.toString('utf8'))).artwork;
}

/** The drawing a form brings: a file, text that was pasted, or one of ours. */
export async function drawingIn(form: FormData): Promise<{ name: string; svg: string }> {
  const chosen = designs.find((d) => d.key === form.get('design'));
  if (chosen) return { name: chosen.name, svg: chosen.svg };
  const file = form.get('file');
  if (file instanceof File && file.size > 0) {
    const name = file.name
      .replace(/\.[^.]*$/, '')
      .replace(/[^\P{C}]/gu, '')
      .trim()
      .slice(0, 80);
    return {
      name: name || 'A drawing',
      svg: new TextDecoder('utf-8').decode(await file.arrayBuffer()).replace(/^\uFEFF/, ''),
    };
  }
  const pasted = form.get('svg');
  if (typeof pasted === 'string' && pasted.trim() !== '') return { name: 'A pasted drawing', svg: pasted.trim() };
  throw new Invalid({ file: 'Choose an SVG drawing, paste one, or take one of ours.' });
}

/**
 * A drawing with some of its layers as one: written anew from its outlines, and read like any other.
 * @param into the layer that the others join
 */
export async function mergedArtwork(
  artwork: Artwork,
  into: string,
  others: readonly string[],
): Promise<{ hash: string; artwork: Artwork }> {
  const target = artwork.layers.find((l) => l.id === into);
  if (!target) throw new NotFound('No such layer.');
  const layers = artwork.layers.map(({ id, hex, d }) => ({ hex: others.includes(id) ? target.hex : hex, d }));
  return keepArtwork(writeSvg(layers, artwork));
}
