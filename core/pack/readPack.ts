import {
  AxisError,
  SettingError,
  limitsOf,
  strengthAxis,
  validateSetting,
  type CutterModel,
} from '../controls/index.ts';
import { checksum } from './checksum.ts';
import { parseGuarded } from './guard.ts';
import { PackError } from './packError.ts';
import { oldOverridesSchema } from '../vinyls/index.ts';
import {
  CHECKSUM_METHOD,
  PACK_FORMAT,
  packFormats,
  packLimits,
  packSchema,
  type Pack,
  type PackBody,
} from './schema.ts';

/** Adds the checksums. */
export function sealPack(body: PackBody): Pack {
  return {
    ...body,
    checksums: {
      method: CHECKSUM_METHOD,
      pack: checksum(body),
      cards: body.cards.map((card) => ({ card: card.key, sha256: checksum(card) })),
    },
  };
}

/** A pack as a file. */
export const writePack = (pack: Pack): string => `${JSON.stringify(pack, null, 1)}\n`;

/**
 * Reads a pack and makes sure that it is whole and hangs together: form, checksums, everything that is named is there, every setting lies
 * on the axes of its model.
 *
 * @throws PackError, one line that says where and what
 */
export function readPack(input: Uint8Array | string): Pack {
  return checkPack(parseGuarded(input));
}

/** The same for a value that was parsed already. @throws PackError */
export function checkPack(value: unknown): Pack {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new PackError('the file is no pack');
  const format = 'format' in value ? value.format : undefined;
  if (!packFormats.some((f) => f === format)) throw new PackError(ofFormat(format));
  const parsed = packSchema.safeParse(value);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    throw new PackError(`${placeOf(issue.path)}: ${issue.message}`);
  }
  // A pack of the first version says what a pack of the first version can say.
  if (format === PACK_FORMAT)
    for (const [i, vinyl] of parsed.data.vinyls.entries()) {
      const issue = oldOverridesSchema.safeParse(vinyl.recipe).error?.issues[0];
      if (issue) throw new PackError(`${placeOf(['vinyls', i, 'recipe', ...issue.path])}: ${issue.message}`);
    }
  // Checksums are over what stands in the file, before anything left out was filled in.
  const { checksums: _, ...rest } = value as { checksums: unknown; cards: { key: string }[] };
  if (parsed.data.checksums.cards.length !== rest.cards.length)
    throw new PackError(
      `checksums.cards: there are ${rest.cards.length} cards and ${parsed.data.checksums.cards.length} checksums`,
    );
  for (const [i, card] of rest.cards.entries()) {
    const { card: of, sha256 } = parsed.data.checksums.cards[i]!;
    if (of !== card.key || sha256 !== checksum(card))
      throw new PackError(`cards[${i}]: its checksum does not match; it was changed after the pack was made`);
  }
  if (parsed.data.checksums.pack !== checksum(rest))
    throw new PackError('checksums.pack: it does not match; the pack was changed after it was made');
  hangsTogether(parsed.data);
  return parsed.data;
}

function ofFormat(format: unknown): string {
  const version = typeof format === 'string' ? /^versipel-pack\/(\d{1,6})$/.exec(format)?.[1] : undefined;
  if (version === undefined) return `format: this is no pack; a pack says "${PACK_FORMAT}"`;
  return Number(version) > packFormats.length
    ? `format: this pack is of version ${version}, newer than the versions 1 and 2 that are read here`
    : `format: this pack is of version ${version}, older than the versions 1 and 2 that are read here`;
}

const placeOf = (path: PropertyKey[]): string =>
  path
    .map((p) => (typeof p === 'number' ? `[${p}]` : `.${String(p)}`))
    .join('')
    .replace(/^\./, '') || 'the file';

function hangsTogether(pack: Pack): void {
  const table = <T extends { key: string }>(list: readonly T[], word: string) => {
    const known = new Map<string, T>();
    for (const [i, item] of list.entries()) {
      if (known.has(item.key)) throw new PackError(`${word}[${i}]: its key stands twice`);
      known.set(item.key, item);
    }
    return <K extends string | undefined>(key: K, where: string): T => {
      const item = key === undefined ? undefined : known.get(key);
      if (!item) throw new PackError(`${where}: there is no such entry in ${word}`);
      return item;
    };
  };
  const person = table(pack.people, 'people');
  const vinyl = table(pack.vinyls, 'vinyls');
  const cutter = table(pack.cutters, 'cutters');
  const blade = table(pack.blades, 'blades');
  table(pack.cards, 'cards');
  const models = new Map<string, CutterModel>();
  for (const [i, m] of pack.models.entries()) {
    if (models.has(`${m.key} ${m.version}`)) throw new PackError(`models[${i}]: its key and version stand twice`);
    models.set(`${m.key} ${m.version}`, m);
  }
  const modelOf = (m: { key: string; version: number }, where: string): CutterModel => {
    const model = models.get(`${m.key} ${m.version}`);
    if (!model) throw new PackError(`${where}: there is no ${m.key} of version ${m.version} in models`);
    return model;
  };
  const fits = (setting: { model: string; version: number; steps: Record<string, number> }, where: string) => {
    const model = modelOf({ key: setting.model, version: setting.version }, where);
    try {
      validateSetting(model, setting);
    } catch (error) {
      if (error instanceof SettingError || error instanceof AxisError)
        throw new PackError(`${where}: ${error.message}`);
      throw error;
    }
    return model;
  };
  const onAxis = (model: CutterModel, position: number, where: string) => {
    const { min, max } = limitsOf(strengthAxis(model));
    if (position < min || position > max) throw new PackError(`${where}: ${position} is not on its strength axis`);
  };
  for (const [i, v] of pack.vinyls.entries()) {
    if (v.sameAs !== undefined && (v.sameAs === v.key || vinyl(v.sameAs, `vinyls[${i}].sameAs`).sameAs !== undefined))
      throw new PackError(`vinyls[${i}].sameAs: it must lead to an entry that stands for itself`);
  }
  for (const [i, c] of pack.cutters.entries()) {
    person(c.person, `cutters[${i}].person`);
    const model = modelOf(c.model, `cutters[${i}].model`);
    c.scales.forEach((s, j) => onAxis(model, s.position, `cutters[${i}].scales[${j}].position`));
  }
  const versions = pack.cards.reduce((n, c) => n + c.versions.length, 0);
  if (versions > packLimits.versions)
    throw new PackError(`cards: they have ${versions} versions; a pack has ${packLimits.versions} at most`);
  const confirmed = new Set<string>();
  for (const [i, card] of pack.cards.entries()) {
    const at = `cards[${i}]`;
    if (!person(card.person, `${at}.person`).name) throw new PackError(`${at}.person: its author has no name`);
    vinyl(card.vinyl, `${at}.vinyl`);
    let before = 0;
    let modelKey: string | undefined;
    for (const [j, v] of card.versions.entries()) {
      const where = `${at}.versions[${j}]`;
      if (v.number <= before) throw new PackError(`${where}.number: versions stand in order, each once`);
      before = v.number;
      if (cutter(v.cutter, `${where}.cutter`).person !== card.person)
        throw new PackError(`${where}.cutter: it is not its author's`);
      if (v.blade) blade(v.blade, `${where}.blade`);
      const model = fits(v.setting, `${where}.setting`);
      if (modelKey !== undefined && modelKey !== model.key)
        throw new PackError(`${where}.setting: a card stays with one model of cutter`);
      modelKey = model.key;
      v.cells.forEach((c, k) => onAxis(model, c.strength, `${where}.cells[${k}].strength`));
      if (v.asked.around) onAxis(model, v.asked.around.position, `${where}.asked.around.position`);
      v.evidence.forEach((e, k) => fits(e.setting, `${where}.evidence[${k}].setting`));
    }
    for (const [j, f] of card.confirmations.entries()) {
      const where = `${at}.confirmations[${j}]`;
      if (confirmed.has(f.key)) throw new PackError(`${where}: its key stands twice`);
      confirmed.add(f.key);
      if (!card.versions.some((v) => v.number === f.version))
        throw new PackError(`${where}.version: the card has no version ${f.version} here`);
      person(f.person, `${where}.person`);
      if (cutter(f.cutter, `${where}.cutter`).person !== f.person)
        throw new PackError(`${where}.cutter: it is not theirs`);
      blade(f.blade, `${where}.blade`);
      const model = fits(f.setting, `${where}.setting`);
      if (f.better !== undefined) onAxis(model, f.better, `${where}.better`);
    }
  }
}
