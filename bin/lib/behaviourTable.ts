import type { MilliCelsius } from '#core/units/index.ts';
import {
  behaviourOf,
  cutMirrored,
  fabricTraits,
  saySeconds,
  vinylTypeKeys,
  type PressWay,
} from '#core/vinyls/index.ts';

const table = (head: string[], rows: string[][]) =>
  [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
const mm = (um: number) => `${um / 1000} mm`;

/** The types in Markdown, for docs/vinyl-types.md: how each lies and is pressed, and what its film is like, with why. */
export function behaviourTable(heat: (mc: MilliCelsius) => string): string {
  const way = (w: PressWay): string =>
    [
      w.purpose && `${w.purpose}:`,
      w.word === undefined ? '' : `iron at “${w.word}”,`,
      w.heat === undefined ? '' : `${heat(w.heat)}${w.upTo === undefined ? '' : ` to ${heat(w.upTo)}`},`,
      [saySeconds(w.seconds), w.pressure, `${w.peel} peel`].filter(Boolean).join(', '),
      w.then && `(${w.then})`,
      w.ask && `(unless: ${w.ask})`,
      ...(w.next ?? []).map((n): string => `then ${way(n)}`),
    ]
      .filter(Boolean)
      .join(' ');
  const types = vinylTypeKeys.map((key) => [key, behaviourOf(key)] as const);
  const lies = table(
    ['type', 'lies', 'mirrored', 'carrier', 'mat', 'carried by', 'press', 'watch', 'why'],
    types.map(([key, b]) => [
      key,
      b.side,
      cutMirrored(b.cutFrom) ? 'yes' : 'no',
      b.carrier,
      b.mat,
      b.carry,
      b.press.map(way).join('; ') || (b.bond === 'heat' ? 'by the leaflet' : 'not pressed'),
      b.tips.map((t) => t.says).join(' '),
      b.because,
    ]),
  );
  const film = table(
    [
      'type',
      'film',
      'carrier',
      'least line',
      'least gap',
      'grows',
      'opacity',
      'blade wear',
      'tack',
      'heat',
      'not on',
      'why',
    ],
    types.map(([key, b]) => [
      key,
      `${b.filmUm} µm`,
      b.carrierUm === 0 ? 'none' : `${b.carrierUm} µm`,
      mm(b.minFeatureUm),
      mm(b.minGapUm),
      b.growthUm === 0 ? 'no' : mm(b.growthUm),
      b.opacity,
      `× ${b.wear}`,
      b.tack,
      b.heat ? `${heat(b.heat.from)} to ${heat(b.heat.to)}` : 'none',
      b.notOn.length === fabricTraits.length ? 'any cloth' : b.notOn.join(', '),
      b.factsBecause,
    ]),
  );
  return `${lies}\n\n## The film itself\n\n${film}`;
}
