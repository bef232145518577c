/**
 * The end of a `switch` over kinds. The compiler breaks here when a kind is added and forgotten; data with a kind that nobody knows is an
 * error, never taken for the last one of the list.
 *
 * @throws Error that names the kind
 */
export function unknownKind(thing: never): never {
  const kind = typeof thing === 'object' && thing !== null ? (thing as { kind?: unknown }).kind : thing;
  throw new Error(`unknown kind: ${String(kind)}`);
}
