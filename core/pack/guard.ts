import { PackError } from './packError.ts';
import { packLimits } from './schema.ts';

/** Keys that mean something to the language itself, and nothing to a pack. */
const forbidden = new Set(['__proto__', 'constructor', 'prototype']);

/** A number or a word of JSON (RFC 8259). Texts are walked by hand: of one with millions of characters a pattern overflows the stack. */
const atom = /-?\d{1,100}(?:\.\d{1,100})?(?:[eE][+-]?\d{1,10})?|true|false|null/y;

/**
 * Parses JSON from somebody unknown. What could harm is looked for before anything is built from it: size, depth, numbers that overflow,
 * keys that reach into the language, keys that stand twice (RFC 8785 wants them once). Reads the text once, without recursion.
 *
 * @throws PackError with what and the line
 */
export function parseGuarded(input: Uint8Array | string): unknown {
  const bytes = typeof input === 'string' ? new TextEncoder().encode(input) : input;
  const mb = (n: number) => `${(n / 1e6).toFixed(1)} MB`;
  if (bytes.length > packLimits.bytes)
    throw new PackError(`the file has ${mb(bytes.length)}; a pack has ${mb(packLimits.bytes)} at most`);
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw new PackError('the file is not text in UTF-8');
  }
  if (text.trim() === '') throw new PackError('the file is empty');
  look(text);
  try {
    return JSON.parse(text);
  } catch {
    // The walk lets some broken grammar through; it never lets through what harms.
    throw new PackError('the file is not JSON');
  }
}

function look(text: string): void {
  const line = (at: number) => {
    let n = 1;
    for (let i = text.indexOf('\n'); i >= 0 && i < at; i = text.indexOf('\n', i + 1)) n++;
    return `line ${n}`;
  };
  // For each open object the keys seen so far; for a list nothing.
  const open: (Set<string> | undefined)[] = [];
  let count = 0;
  /** Where the last text began and ended, as long as nothing but white space came after. */
  let key: { from: number; to: number } | undefined;
  for (let at = 0; at < text.length;) {
    const c = text[at]!;
    if (c === ' ' || c === '\n' || c === '\r' || c === '\t') {
      at++;
      continue;
    }
    if (++count > packLimits.tokens) throw new PackError(`the file holds more than ${packLimits.tokens} values`);
    if (c === '"') {
      const end = endOfText(text, at);
      // A quote that never closes is what a file looks like that was cut off.
      if (end === undefined) throw new PackError(`${line(at)}: a text begins and does not end; the file is not whole`);
      // Within this text alone: looked for in all that follows, a long file would be read over and over.
      const written = text.slice(at, end);
      if (written.includes('\\u')) {
        const said = readText(written, () => line(at));
        if (said.includes('\0') || /\p{Surrogate}/u.test(said))
          throw new PackError(`${line(at)}: a text with a character that no text holds`);
      }
      key = { from: at, to: end };
      at = end;
      continue;
    }
    if (c === '{' || c === '[') {
      if (open.length >= packLimits.depth)
        throw new PackError(`${line(at)}: nested deeper than ${packLimits.depth} levels`);
      open.push(c === '{' ? new Set() : undefined);
    } else if (c === '}' || c === ']') {
      if (open.length === 0) throw new PackError(`${line(at)}: "${c}" closes nothing`);
      open.pop();
    } else if (c === ':') {
      const keys = open.at(-1);
      if (!keys || !key) throw new PackError(`${line(at)}: ":" stands after no key`);
      const { from, to } = key;
      const name = readText(text.slice(from, to), () => line(from));
      if (forbidden.has(name)) throw new PackError(`${line(from)}: the key "${name}" has no place in a pack`);
      if (keys.has(name))
        throw new PackError(`${line(from)}: the key "${name.slice(0, 40)}" stands twice in one object`);
      keys.add(name);
    } else if (c !== ',') {
      atom.lastIndex = at;
      const found = atom.exec(text)?.[0];
      if (found === undefined) throw new PackError(`${line(at)}: "${c}" is not JSON`);
      if (/[\d.eE+-]/.test(text[at + found.length] ?? ''))
        throw new PackError(`${line(at)}: a number that is too long`);
      if (c !== 't' && c !== 'f' && c !== 'n' && !Number.isFinite(Number(found)))
        throw new PackError(`${line(at)}: ${found.slice(0, 20)} is no number a pack can hold`);
      at += found.length - 1;
    }
    key = undefined;
    at++;
  }
  if (open.length > 0)
    throw new PackError(
      `the file breaks off in ${line(text.length)} with ${open.length} ${open.length === 1 ? 'bracket' : 'brackets'} open; it is not whole`,
    );
}

/** The place after the quote that closes a text; undefined where none does. */
function endOfText(text: string, start: number): number | undefined {
  for (let quote = text.indexOf('"', start + 1); quote >= 0; quote = text.indexOf('"', quote + 1)) {
    let slashes = 0;
    while (text[quote - 1 - slashes] === '\\') slashes++;
    if (slashes % 2 === 0) return quote + 1;
  }
  return undefined;
}

/** @param where asked only when something is wrong: to count lines is to read all that came before */
function readText(text: string, where: () => string): string {
  try {
    return JSON.parse(text) as string;
  } catch {
    throw new PackError(`${where()}: a text that is not JSON`);
  }
}
