/** Where an option may lie. `open` leaves an end out; `whole` takes whole numbers only. */
export type Range = { from: number; to: number; open?: 'from' | 'to' | 'both'; whole?: boolean };

const said = ({ from, to, open, whole }: Range): string =>
  `${open === 'from' || open === 'both' ? '(' : '['}${from}, ${to}${open === 'to' || open === 'both' ? ')' : ']'}${whole ? ', whole' : ''}`;

/**
 * Options where they enter: each in its range, and none that nobody knows.
 *
 * @example checked({ credible: 0.9 }, { credible: { from: 0, to: 1, open: 'both' } }) // { credible: 0.9 }
 * @throws RangeError that names the option, its range and what it was: "invalid credible; not in (0, 1): 2"
 */
export function checked<T extends object>(options: T, ranges: { readonly [K in keyof T]?: Range }): T {
  for (const [name, value] of Object.entries(options)) {
    if (!Object.hasOwn(ranges, name)) throw new RangeError(`there is no option called "${name}"`);
    const range = ranges[name as keyof T];
    if (range === undefined) continue;
    const { from, to, open, whole } = range;
    const inside =
      typeof value === 'number' &&
      (open === 'from' || open === 'both' ? value > from : value >= from) &&
      (open === 'to' || open === 'both' ? value < to : value <= to) &&
      (!whole || Number.isInteger(value));
    if (!inside) throw new RangeError(`invalid ${name}; not in ${said(range)}: ${String(value)}`);
  }
  return options;
}

/** A share that is neither nothing nor all. */
export const SHARE: Range = { from: 0, to: 1, open: 'both' };
