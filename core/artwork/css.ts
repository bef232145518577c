import { ArtworkError, artworkLimits } from './limits.ts';
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

/** The rules of style sheets, by what the element they are about must have: few are looked at for each. */
export class Rules {
  /** By class, id or tag of the last compound, whichever is the rarest; by '*' where it has none. */
  private readonly by = new Map<string, Rule[]>();
  private compared = 0;

  constructor(rules: readonly Rule[]) {
    for (const rule of rules) {
      const { id, classes, tag } = rule.chain.at(-1)!;
      const key = id ? `#${id}` : classes[0] ? `.${classes[0]}` : (tag ?? '*');
      const held = this.by.get(key);
      if (held) held.push(rule);
      else this.by.set(key, [rule]);
    }
  }

  /** What the rules say of a node, the weightiest last word. @throws ArtworkError where there is too much to compare */
  of(node: SvgNode): Record<string, string> {
    if (this.by.size === 0) return {};
    const keys = ['*', node.name, ...[...classesOf(node)].map((c) => `.${c}`)];
    if (node.attributes.id !== undefined) keys.push(`#${node.attributes.id}`);
    const about = keys
      .flatMap((key) => this.by.get(key) ?? [])
      .sort((a, b) => a.weight - b.weight || a.order - b.order);
    const says: Record<string, string> = {};
    for (const { chain, says: more } of about) {
      this.count();
      if (!fits(node, chain.at(-1)!)) continue;
      let above = node.parent;
      let i = chain.length - 2;
      for (; i >= 0 && above; above = above.parent) {
        this.count();
        if (fits(above, chain[i]!)) i--;
      }
      if (i < 0) Object.assign(says, more);
    }
    return says;
  }

  private count(): void {
    if (++this.compared > artworkLimits.comparisons)
      throw new ArtworkError(
        'This drawing has too many style rules for its shapes. Save it with plain attributes first',
      );
  }
}

/**
 * The rules of style sheets: tags, classes, ids, and these one inside another. What else CSS can say is passed over.
 * Weights as in CSS: ids before classes before tags, the later before the earlier.
 */
export function readRules(sheets: readonly string[]): Rules {
  const rules: Rule[] = [];
  const text = withoutComments(sheets.join('\n').slice(0, 200_000));
  // From brace to brace: each character is looked at once.
  for (let at = 0; rules.length < artworkLimits.rules;) {
    const opens = text.indexOf('{', at);
    const closes = opens < 0 ? -1 : text.indexOf('}', opens);
    if (closes < 0) break;
    // Of braces inside one another the innermost is a rule, as in a media query.
    const inner = text.lastIndexOf('{', closes);
    const before = text.slice(at, inner);
    const begins = Math.max(...[';', '}', '{', '@'].map((c) => before.lastIndexOf(c) + 1));
    take(before.slice(begins), text.slice(inner + 1, closes), rules);
    at = closes + 1;
  }
  return new Rules(rules.slice(0, artworkLimits.rules));
}

/** Length of a selector and its compounds that are looked at. */
const SELECTOR = { length: 300, compounds: 12 };

function take(selectors: string, body: string, rules: Rule[]): void {
  for (const selector of selectors.split(',', 200)) {
    const words = selector.trim().slice(0, SELECTOR.length).replaceAll('>', ' ').split(/\s+/);
    const chain = words.length <= SELECTOR.compounds ? words.map(compound) : [];
    if (chain.length === 0 || chain.some((c) => c === undefined)) continue;
    const whole = chain as Compound[];
    const weight = whole.reduce((w, c) => w + (c.id ? 10_000 : 0) + c.classes.length * 100 + (c.tag ? 1 : 0), 0);
    rules.push({ chain: whole, weight, order: rules.length, says: declarations(body) });
  }
}

function withoutComments(text: string): string {
  let plain = '';
  for (let at = 0; ;) {
    const from = text.indexOf('/*', at);
    if (from < 0) return plain + text.slice(at);
    plain += text.slice(at, from);
    const to = text.indexOf('*/', from + 2);
    if (to < 0) return plain;
    at = to + 2;
  }
}

const known = new WeakMap<SvgNode, ReadonlySet<string>>();
/** Classes of a node: the first sixty, in the first 2 000 characters. */
function classesOf(node: SvgNode): ReadonlySet<string> {
  let classes = known.get(node);
  if (!classes) {
    classes = new Set((node.attributes.class ?? '').slice(0, 2_000).split(/\s+/, 60).filter(Boolean));
    known.set(node, classes);
  }
  return classes;
}

function fits(node: SvgNode, { tag, id, classes }: Compound): boolean {
  return (
    (!tag || tag === node.name) &&
    (!id || id === node.attributes.id) &&
    (classes.length === 0 || classes.every((c) => classesOf(node).has(c)))
  );
}
