/**
 * What each press of a piece is called among the others: `before`, `all` (the last press of what was tacked), `after`, `back`; `layer`, `raise`
 * and `backing off` with the films they are about. A name
 * that comes again bears its number from the second time on, so that each press is ticked by itself and ticks of running jobs stand.
 * @example stepNames([{ does: 'layer', films: ['a'] }, { does: 'last', films: ['a'] }, { does: 'last', films: ['b'] }]) // ['layer a', 'all', 'all 2']
 */
export function stepNames(steps: readonly { does: string; films: readonly string[] }[]): string[] {
  const times = new Map<string, number>();
  return steps.map(({ does, films }) => {
    const about = does === 'layer' || does === 'raise' || does === 'backing off';
    const named = about ? `${does} ${films.join(' ')}` : does === 'last' ? 'all' : does;
    const time = (times.get(named) ?? 0) + 1;
    times.set(named, time);
    return time === 1 ? named : `${named} ${time}`;
  });
}
