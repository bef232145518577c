import { v7 as uuidv7 } from 'uuid';
import { cutterModelSchema, parsePosition, AxisError } from '#core/controls/index.ts';
import { parseDecimal } from '#core/units/index.ts';
import { Invalid } from '#work/base/errors.ts';
import { modelProblem } from './models.ts';

/** What one entry of a list is taken to cut heavier than the one before, in log load, until it is learnt. Common practice, no source. */
const ENTRY_STEP = 0.2;

/**
 * A model as the form states it, field by field. What is not a number is left as it was typed, for the schema to name.
 * @throws Invalid at the field that holds no number, or whose start is not on its axis
 */
export function modelFromForm(form: FormData): unknown {
  const text = (key: string) => String(form.get(key) ?? '').trim();
  const fields: Record<string, string> = {};
  const number = (key: string): number => {
    const value = parseDecimal(text(key));
    if (value === undefined || text(key) === '') fields[key] = 'This is a number.';
    return value ?? NaN;
  };
  const names = (key: string, least: number): string[] => {
    const list = text(key)
      .split(/[,;\n]/)
      .map((s) => s.trim())
      .filter(Boolean);
    if (list.length < least) fields[key] = `Name at least ${least}, separated by commas.`;
    return list;
  };
  const slug = (s: string, fallback: string) =>
    (
      s
        .normalize('NFKD')
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^[^a-z]+|-+$/g, '') || fallback
    ).slice(0, 30);
  if (text('name') === '') fields.name = 'Give the model a name.';
  const count = Math.min(6, Math.max(1, Number(text('axes')) || 1));
  const used = new Set<string>();
  const axes = Array.from({ length: count }, (_, i) => {
    const at = (key: string) => `axis-${i}-${key}`;
    const word = text(at('word'));
    if (word === '') fields[at('word')] = 'Say what the cutter calls it.';
    let key = slug(word, `axis-${i + 1}`);
    if (used.has(key)) key = `${key}-${i + 1}`;
    used.add(key);
    const common = { key, word, role: text(at('role')) };
    const kind = text(at('kind'));
    let axis: Record<string, unknown>;
    if (kind === 'dial') axis = { ...common, kind, stops: names(at('stops'), 2), halves: text(at('halves')) === 'yes' };
    else if (kind === 'list') {
      const entries = names(at('entries'), 2);
      const plain = Math.max(0, entries.indexOf(text(at('start'))));
      const modifiers = text(at('modifier')) === '' ? [] : names(at('modifier'), 2);
      axis = {
        ...common,
        kind,
        entries: entries.map((name, e) => ({ name, load: Number(((e - plain) * ENTRY_STEP).toFixed(3)) })),
        ...(modifiers.length > 0
          ? { modifier: { word: 'pressure', names: modifiers, normal: Math.floor((modifiers.length - 1) / 2) } }
          : {}),
      };
    } else {
      const step = text(at('step')) === '' ? 1 : number(at('step'));
      const [min, max] = [number(at('min')) / step, number(at('max')) / step];
      for (const [end, value] of [
        ['min', min],
        ['max', max],
      ] as const)
        if (Number.isFinite(value) && Math.abs(value - Math.round(value)) > 1e-9)
          fields[at(end)] = `This is no whole number of steps of ${step}.`;
      axis = {
        ...common,
        kind: 'number',
        min: Math.round(min),
        max: Math.round(max),
        step,
        scale: text(at('log')) === 'yes' ? 'log' : 'linear',
      };
    }
    const start = text(at('start'));
    const alone = cutterModelSchema.shape.axes.element.safeParse(axis);
    if (start !== '' && alone.success)
      try {
        axis.start = parsePosition(alone.data, start);
      } catch (error) {
        if (!(error instanceof AxisError)) throw error;
        fields[at('start')] = `${error.message}.`;
      }
    if (!alone.success && Object.keys(fields).length === 0) fields[at('word')] = modelProblem(alone.error);
    return axis;
  });
  if (Object.keys(fields).length > 0) throw new Invalid(fields);
  return {
    key: `${slug(text('name'), 'own')}-${uuidv7().slice(-8)}`,
    version: 1,
    name: text('name'),
    about: text('about'),
    axes,
  };
}
