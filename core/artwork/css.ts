import type { SvgNode } from './svgTree.ts';

type Compound = { tag?: string; id?: string; classes: string[] };
type Rule = { chain: Compound[]; weight: number; order: number; says: Record<string, string> };

/** Declarations of a style attribute or of a rule: "fill: #c00; stroke-width: 2". */
export function declarations(text: string): Record<string, string> {
  const says: Record<string, string> = {};
  for (const part of text.split(';')) {
    const colon = part.indexOf(':');
    if (colon > 0)
      says[part.slice(0, colon).trim().toLowerCase()] = part
        .slice(colon + 1)
        .replace(/!important/i, '')
        .trim();
  }
  return says;
}

function compound(text: string): Compound | undefined {
  if (!/^(\*|[\w-]+)?([.#][\w-]+)*$/.test(text) || text === '') return undefined;
  const tag = /^[\w-]+/.exec(text)?.[0];
  const id = /#([\w-]+)/.exec(text)?.[1];
  return {
    ...(tag ? { tag } : {}),
    ...(id ? { id } : {}),
    classes: [...text.matchAll(/\.([\w-]+)/g)].map((m) => m[1]!),
  };
}

/**
 * The rules of style sheets: tags, classes, ids, and these one inside another. What else CSS can say is passed over.
 * Weights as in CSS: ids before classes before tags, the later before the earlier.
 */
export function readRules(sheets: readonly string[]): Rule[] {
  const rules: Rule[] = [];
  const text = sheets
    .join('\n')
    .slice(0, 200_000)
    .replace(/\/\*[\s\S]*?\*\//g, '');
  for (const [, selectors, body] of text.matchAll(/([^{}@;]+)\{([^{}]*)\}/g))
    for (const selector of selectors!.split(',').slice(0, 200)) {
      const chain = selector
        .trim()
        .split(/\s*>\s*|\s+/)
        .map(compound);
      if (chain.length === 0 || chain.some((c) => c === undefined)) continue;
      const whole = chain as Compound[];
      const weight = whole.reduce((w, c) => w + (c.id ? 10_000 : 0) + c.classes.length * 100 + (c.tag ? 1 : 0), 0);
      rules.push({ chain: whole, weight, order: rules.length, says: declarations(body!) });
    }
  return rules.slice(0, 2000).sort((a, b) => a.weight - b.weight || a.order - b.order);
}

function fits(node: SvgNode, { tag, id, classes }: Compound): boolean {
  const own = (node.attributes.class ?? '').split(/\s+/);
  return (!tag || tag === node.name) && (!id || id === node.attributes.id) && classes.every((c) => own.includes(c));
}

/** What the rules say of a node, the weightiest last word. */
export function ruled(node: SvgNode, rules: readonly Rule[]): Record<string, string> {
  const says: Record<string, string> = {};
  for (const { chain, says: more } of rules) {
    if (!fits(node, chain.at(-1)!)) continue;
    let above = node.parent;
    let i = chain.length - 2;
    for (; i >= 0 && above; above = above.parent) if (fits(above, chain[i]!)) i--;
    if (i < 0) Object.assign(says, more);
  }
  return says;
}
