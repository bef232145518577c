import { SaxesParser } from 'saxes';
import { ArtworkError, artworkLimits } from './limits.ts';

/** An element of a drawing, with its attributes and what stands inside it. */
export type SvgNode = {
  name: string;
  attributes: Readonly<Record<string, string>>;
  children: SvgNode[];
  parent: SvgNode | undefined;
};

/** A drawing as a tree, its style sheets apart. Nothing it names outside is fetched. */
export type SvgTree = {
  root: SvgNode;
  byId: Map<string, SvgNode>;
  styles: string[];
  hasText: boolean;
  hasImage: boolean;
};

/**
 * Reads SVG text into a tree. Only elements count; comments, processing instructions and foreign names are passed over.
 *
 * @throws ArtworkError for what is no SVG, or larger or deeper than `artworkLimits`
 */
export function readTree(text: string): SvgTree {
  if (text.length > artworkLimits.bytes)
    throw new ArtworkError(
      `This file has ${Math.ceil(text.length / 1e6)} MB; at most ${artworkLimits.bytes / 1e6} MB are read`,
    );
  const parser = new SaxesParser({ xmlns: false });
  const byId = new Map<string, SvgNode>();
  const styles: string[] = [];
  let root: SvgNode | undefined;
  let open: SvgNode | undefined;
  let depth = 0;
  let count = 0;
  let hasText = false;
  let hasImage = false;
  let style: string | undefined;
  parser.on('error', (error) => {
    throw new ArtworkError(`This is no drawing that can be read (${error.message.slice(0, 120)})`);
  });
  // Drawing programs name their namespaces by entities; each stands for plain text and for nothing more.
  parser.on('doctype', (doctype) => {
    for (const [, name, value] of doctype.matchAll(/<!ENTITY\s+([\w.-]{1,60})\s+(?:"([^"&]{0,300})")\s*>/g))
      parser.ENTITIES[name!] = value!;
    // What they would grow to is counted before any of it is made.
    let grown = text.length;
    for (const [, name] of text.matchAll(/&([\w.-]{1,60});/g))
      if ((grown += parser.ENTITIES[name!]?.length ?? 0) > artworkLimits.expanded)
        throw new ArtworkError('This drawing repeats too much text by its entities. Save it as plain SVG first');
  });
  parser.on('opentag', (tag) => {
    if (++count > artworkLimits.elements)
      throw new ArtworkError(`This drawing has more than ${artworkLimits.elements} elements`);
    if (++depth > artworkLimits.depth)
      throw new ArtworkError(`This drawing is nested deeper than ${artworkLimits.depth} groups`);
    const name = tag.name.replace(/^svg:/, '');
    const node: SvgNode = { name, attributes: tag.attributes as Record<string, string>, children: [], parent: open };
    if (!open) {
      if (name !== 'svg') throw new ArtworkError(`This is a "${name.slice(0, 40)}" file, no SVG drawing`);
      root = node;
    } else open.children.push(node);
    const { id } = node.attributes;
    if (id !== undefined && !byId.has(id)) byId.set(id, node);
    if (name === 'style') style = '';
    if (name === 'text') hasText = true;
    if (name === 'image') hasImage = true;
    open = node;
  });
  const take = (piece: string) => {
    if (style !== undefined) style += piece;
  };
  parser.on('text', take);
  parser.on('cdata', take);
  parser.on('closetag', () => {
    depth--;
    if (open?.name === 'style' && style !== undefined) {
      styles.push(style);
      style = undefined;
    }
    open = open?.parent;
  });
  parser.write(text).close();
  if (!root) throw new ArtworkError('This file is empty: there is no drawing in it');
  return { root, byId, styles, hasText, hasImage };
}
