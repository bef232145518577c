import { filmPieceDefaults } from './filmPiece.ts';
import { causeKeys, causes } from './causes.ts';
import { applySteps, pressDefaults, usualLevels, type AppliedFilm } from '../press/index.ts';
import { shapeKeys, shapes } from '../place/index.ts';
import { micrometresToInches, type MilliCelsius } from '../units/index.ts';
import {
  bases,
  behaviourOf,
  blankKeys,
  blanks,
  handSchools,
  saySeconds,
  typeTips,
  unloadTip,
  vinylTypeKeys,
  vinylTypes,
  type Basis,
  type VinylTypeKey,
  cutMirrored,
} from '../vinyls/index.ts';

/** Something the product takes for granted: where it stands, what it says, what it rests on, and how a person overrules it. */
export type Statement = { of: string; says: string; basis: Basis; overruled: string };

const practice = 'common practice' as const;
const inches = (um: number) => `${Number(micrometresToInches(um).toFixed(2))} in`;
const aboutVinyl = 'in “About” of the vinyl, or in a type of one’s own';
const ownBlank = 'measured anew in the job';

/** What is said of the film of a type, and how it lies. */
function ofType(key: VinylTypeKey, heat: (mc: MilliCelsius) => string): Statement[] {
  const b = behaviourOf(key);
  const of = vinylTypes[key].word;
  const say = (says: string, basis: Basis, overruled = aboutVinyl): Statement => ({ of, says, basis, overruled });
  return [
    say(`lies ${b.side}`, practice),
    say(cutMirrored(b.cutFrom) ? 'is cut mirrored' : 'is not mirrored', practice),
    ...(b.carrier === 'unknown' ? [] : [say(`its carrier is ${b.carrier}`, practice)]),
    say(`goes on ${b.mat === 'none' ? 'no mat' : `a mat of ${b.mat} grip`}`, practice),
    say(`the film is ${b.filmUm} µm thick`, 'judgement'),
    say(`its least line is ${b.minFeatureUm / 1000} mm, its least gap ${b.minGapUm / 1000} mm`, 'judgement'),
    ...(b.growthUm > 0 ? [say(`an edge grows by ${b.growthUm / 1000} mm`, 'judgement')] : []),
    ...(b.leadUm > 0 ? [say(`wants ${inches(b.leadUm)} more than the design is high`, practice)] : []),
    ...(b.rollUm ? [say(`comes ${inches(b.rollUm)} wide`, practice, 'none yet')] : []),
    say(`wears a blade ${b.wear} times as fast as plain film`, 'judgement'),
    say(`holds on its carrier: ${b.tack}`, 'judgement'),
    ...(b.heat ? [say(`is looked for between ${heat(b.heat.from)} and ${heat(b.heat.to)}`, 'judgement')] : []),
    ...b.notOn.map((t) => say(`not on ${t}`, t === 'long pile' || t === 'pressed in parts' ? practice : 'judgement')),
    ...b.press.map((w) =>
      say(
        `is pressed ${[w.purpose, w.word ? `at “${w.word}”` : w.heat === undefined ? '' : heat(w.heat), saySeconds(w.seconds), w.pressure, `${w.peel} peel`].filter(Boolean).join(', ')}${w.next ? ', and again' : ''}`,
        practice,
        'a recipe of one’s own, or its leaflet',
      ),
    ),
    ...b.cutSchools.map((s) =>
      say(`is cut ${s.says}${s.because ? `: ${s.because}` : ''}`, practice, 'the way one follows'),
    ),
    ...Object.entries(handSchools(key)).flatMap(([topic, ways]) =>
      ways.map((w) => say(`${topic}: ${w.says}${w.because ? `, ${w.because}` : ''}`, practice, 'the way one follows')),
    ),
    ...typeTips[key].map((t) => say(t.says, t.basis, 'a note of one’s own')),
  ];
}

/** What is done with film that is laid by hand: every line that can come up, each once. */
function ofApplying(): Statement[] {
  const film = (type: VinylTypeKey, more: Partial<AppliedFilm> = {}): AppliedFilm => {
    const { bond, face } = behaviourOf(type);
    return { id: type, name: 'the film', type, bond, face, widthUm: 60_000, ...more };
  };
  const jobs = [
    applySteps([film('adhesive', { stencil: true })], { ...blanks.glass, round: true }),
    applySteps([film('adhesive', { widthUm: 300_000 })], blanks.glass),
    applySteps([film('adhesive'), film('glitter-adhesive')], blanks.plastic),
    applySteps([film('adhesive')], blanks.balloon),
    applySteps([film('faux-leather')], blanks.leather),
  ];
  const guessed = ['wide', '10 °C'];
  return [...new Set(jobs.flat().flatMap((s) => s.says))].map((says) => ({
    of: 'laid by hand',
    says,
    basis: guessed.some((g) => says.includes(g)) ? 'judgement' : practice,
    overruled: 'a step or a note of one’s own',
  }));
}

/** Everything that is taken for granted, one statement each. @param heat a heat in words */
export function statements(heat: (mc: MilliCelsius) => string): Statement[] {
  return [
    ...vinylTypeKeys.flatMap((key) => ofType(key, heat)),
    { of: 'every mat', says: unloadTip.says, basis: unloadTip.basis, overruled: 'who weeds on the mat is not told' },
    ...blankKeys.flatMap((key): Statement[] => {
      const { word, heat: most, sticks, tips, care, suits } = blanks[key];
      const of = word.split(':')[0]!;
      return [
        {
          of,
          says: most === undefined ? 'is not pressed' : `takes ${heat(most)} at most`,
          basis: most === undefined ? practice : 'judgement',
          overruled: 'a recipe of one’s own, pressed by a deliberate yes',
        },
        {
          of,
          says: sticks ? 'takes film that sticks' : 'takes no film that sticks',
          basis: practice,
          overruled: 'none forbidden',
        },
        ...[care, suits].flatMap((says) =>
          says ? [{ of, says, basis: practice, overruled: 'a note of one’s own' }] : [],
        ),
        ...tips.map((t) => ({ of, says: t.says, basis: t.basis, overruled: 'a note of one’s own' })),
      ];
    }),
    ...shapeKeys.flatMap((key): Statement[] => {
      const s = shapes[key];
      const say = (says: string, basis: Basis = practice, overruled = ownBlank): Statement => ({
        of: s.word,
        says,
        basis,
        overruled,
      });
      return [
        say(`measures ${inches(s.width)} by ${inches(s.height)}`, 'judgement'),
        ...Object.entries(s.designs).map(([size, um]) =>
          say(`a design is ${inches(um)} wide${size === 'all' ? '' : ` on ${size}`}`),
        ),
        ...Object.entries(s.bySide ?? {}).map(([side, b]) =>
          say(`${side}: ${inches(b.width)}${b.height ? ` by ${inches(b.height)}` : ''}`, b.basis),
        ),
        ...Object.entries(s.ways ?? {}).flatMap(([topic, ways]) =>
          ways.map((w) => say(`${topic}: ${w.says}`, practice, 'the way one follows')),
        ),
        say(
          `is ${s.then}${s.then.endsWith('washed') ? '' : ', and not washed'}`,
          key === 'holder' ? 'judgement' : practice,
          'a step of one’s own at the end',
        ),
        ...s.tips.map((t) => say(t.says, t.basis)),
      ];
    }),
    ...ofApplying(),
    ...causeKeys.flatMap((key): Statement[] => [
      {
        of: 'what goes wrong',
        says: `${causes[key].word}: ${causes[key].remedy}`,
        basis: practice,
        overruled: 'what helped before',
      },
      ...Object.entries(causes[key].behind).map(([seen, share]) => ({
        of: 'what goes wrong',
        says: `${causes[key].word} is behind “${seen}” with a share of ${share}`,
        basis: 'judgement' as const,
        overruled: 'answers to “did it help?”',
      })),
      ...Object.entries(causes[key].clues).map(([clue, times]) => ({
        of: 'what goes wrong',
        says: `“${clue}” makes “${causes[key].word}” ${times} times as likely`,
        basis: 'judgement' as const,
        overruled: 'answers to “did it help?”',
      })),
    ]),
    ...[
      'no wash for a day, or at once by its leaflet',
      'inside out, cold, gentle',
      'no bleach, no dry cleaning, no iron on it',
      'puff that was washed flat rises in a low to medium dryer',
    ].map((says): Statement => ({ of: 'wash', says, basis: practice, overruled: 'its leaflet' })),
    ...Object.entries(pressDefaults.waits).map(([peel, s]): Statement => ({
      of: 'press',
      says: `a ${peel} peel waits ${s} s`,
      basis: peel === 'cool' || peel === 'hot' ? practice : 'judgement',
      overruled: 'the wait in a recipe',
    })),
    {
      of: 'press',
      says: `a bare blank is pressed ${pressDefaults.before} s, ${pressDefaults.dry} s under puff`,
      basis: practice,
      overruled: 'in a recipe',
    },
    {
      of: 'press',
      says: `a base is tacked ${pressDefaults.tack} s, ${pressDefaults.thickTack} s through a thick carrier`,
      basis: practice,
      overruled: 'a tack of one’s own',
    },
    {
      of: 'press',
      says: `film bears ${pressDefaults.bears.other} full presses, plain film ${pressDefaults.bears.plain}`,
      basis: 'judgement',
      overruled: 'a caution only',
    },
    {
      of: 'press',
      says: `film shrinks by ${pressDefaults.shrink * 100} % in its first press`,
      basis: 'judgement',
      overruled: 'measured, in a recipe',
    },
    {
      of: 'press',
      says: `a plate takes ${pressDefaults.warmth.warm} s a degree to warm, ${pressDefaults.warmth.cool} s to cool`,
      basis: 'judgement',
      overruled: 'its own log',
    },
    {
      of: 'trim',
      says: `${inches(filmPieceDefaults.margin)} more than the design on each side`,
      basis: practice,
      overruled: 'trimmed by hand',
    },
    {
      of: 'trim',
      says: `a mat cuts ${inches(2 * filmPieceDefaults.matEdge)} less than it is wide`,
      basis: practice,
      overruled: 'a mat of another width',
    },
    ...Object.entries(usualLevels).flatMap(([kind, levels]) =>
      levels.map(({ word, heat: mc }): Statement => ({
        of: kind,
        says: `“${word}” has about ${heat(mc)}`,
        basis: kind === 'iron' ? 'standard' : word === 'low' ? practice : 'judgement',
        overruled: 'a thermometer, or a card of swatches',
      })),
    ),
    {
      of: 'units',
      says: '1 in is 25.4 mm (International yard and pound, 1959); °F = °C × 1.8 + 32',
      basis: 'standard',
      overruled: 'none',
    },
    {
      of: 'colour',
      says: 'contrast as WCAG 2.2 reckons it: 1 is none, 3 is seen with ease (1.4.11)',
      basis: 'standard',
      overruled: 'none',
    },
  ];
}

/** The statements in Markdown, counted by what they rest on. */
export function statementsTable(heat: (mc: MilliCelsius) => string): string {
  const all = statements(heat);
  const line = (cells: readonly string[]) => `| ${cells.map((c) => c.replaceAll('|', '/')).join(' | ')} |`;
  return [
    line(['Rests on', 'Statements']),
    line(['---', '---']),
    ...bases.map((b) => line([b, String(all.filter((s) => s.basis === b).length)])),
    line(['all', String(all.length)]),
    '',
    line(['Of', 'Says', 'Rests on', 'Overruled by']),
    line(['---', '---', '---', '---']),
    ...all.map((s) => line([s.of, s.says, s.basis, s.overruled])),
  ].join('\n');
}
