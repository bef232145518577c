import {
  AxisError,
  parseSetting,
  startingSetting,
  strengthAxis,
  type CutterModel,
  type Setting,
} from '../controls/index.ts';
import { columns, type Problem } from '../catalogue/index.ts';
import { nameLikeness } from '../vinyls/index.ts';

/** A column of the controls of the cutter on the bench: its key in a mapping, and how people call it. */
export type SettingColumn = { key: string; word: string };

const PREFIX = 'set.';
/** The blade that was on the cutter; a control may be called so too. */
const BLADE = 'on.blade';
/** What spreadsheets call the strength, whatever a cutter calls it. Common practice, no source. */
const said: Record<'strength' | 'speed' | 'depth' | 'passes', readonly string[]> = {
  strength: [
    'strength',
    'force',
    'pressure',
    'power',
    'grams',
    'g',
    'dial',
    'setting',
    'cut force',
    'cut pressure',
    'material',
  ],
  speed: ['speed', 'cut speed', 'velocity'],
  depth: ['depth', 'blade depth'],
  passes: ['passes', 'pass', 'cuts', 'times', 'number of passes'],
};
const bladeWords = ['blade', 'blade name', 'blade angle', 'knife', 'tip'];

/** Columns for the controls of a cutter model, strength first, and for the blade. A word that the table has already is said with "cut" before it. */
export function settingColumns(model: CutterModel): SettingColumn[] {
  const strength = strengthAxis(model);
  const taken = new Set(columns.flatMap((c) => [c.key, c.word]));
  return [
    ...[strength, ...model.axes.filter((a) => a !== strength)].map((a) => ({
      key: `${PREFIX}${a.key}`,
      word: taken.has(a.word) ? `cut ${a.word}` : a.word,
    })),
    { key: BLADE, word: model.axes.some((a) => a.word === 'blade') ? 'blade name' : 'blade' },
  ];
}

/** The column of a cutter's controls that a heading means; undefined where it means none. */
export function guessSettingColumn(model: CutterModel, heading: string): string | undefined {
  const head = heading
    .trim()
    .toLowerCase()
    .replace(/[_\s-]+/g, ' ')
    .replace(/\s*[([].*$/, '');
  const own = settingColumns(model).find((c) => c.word === head || c.key === heading);
  if (own) return own.key;
  if (bladeWords.includes(head)) return BLADE;
  for (const axis of model.axes)
    if (said[axis.role].some((w) => w === head || nameLikeness(head, w) >= 0.85)) return `${PREFIX}${axis.key}`;
  return undefined;
}

/**
 * The controls a row states, in the terms of a cutter: what it leaves out stands where the model starts.
 * @returns undefined for a row without a strength; the problems, each at its column, for one that is none of the cutter's
 */
export function readSetting(
  model: CutterModel,
  cells: Readonly<Record<string, string>>,
): { setting: Setting } | { problems: Problem[] } | undefined {
  const strength = strengthAxis(model);
  const typed: Record<string, string> = {};
  for (const axis of model.axes) {
    const text = (cells[`${PREFIX}${axis.key}`] ?? '').trim();
    if (text !== '') typed[axis.key] = axis.kind === 'number' ? text.replace(/\s*(g|grams?|mm\/s)$/i, '') : text;
  }
  if (typed[strength.key] === undefined) return undefined;
  const base = startingSetting(model);
  const problems: Problem[] = [];
  for (const [key, text] of Object.entries(typed))
    try {
      parseSetting(model, { [key]: text }, base);
    } catch (error) {
      if (!(error instanceof AxisError)) throw error;
      problems.push({ column: `${PREFIX}${key}`, why: error.message });
    }
  return problems.length > 0 ? { problems } : { setting: parseSetting(model, typed, base) };
}
/** What a row says of the blade. */
export const readBlade = (cells: Readonly<Record<string, string>>): string => (cells[BLADE] ?? '').trim().slice(0, 80);
