import { inchesToMicrometres, mmToMicrometres, parseDecimal, toMilliCelsius, bothHeats } from '../units/index.ts';
import { hexOfName } from './colours.ts';
import {
  fabricTraits,
  heatLimits,
  peels,
  fullPress,
  pressures,
  saySeconds,
  vinylTypeKeys,
  vinylTypes,
  type Overrides,
  type VinylTypeKey,
} from '../vinyls/index.ts';

/** A size a vinyl is sold in. Price in minor units (cents, pence) of its currency. */
export type Size = {
  kind: 'roll' | 'sheet';
  widthUm: number;
  lengthUm: number;
  price?: { minor: number; currency: string };
};

/** A vinyl as it stands in a table: what is empty follows its type. */
export type CatalogueRecord = {
  brand: string;
  name: string;
  type: VinylTypeKey;
  /** The word of a type of one's own that inherits from `type`. */
  ownType: string;
  colours: { name: string; hex: string }[];
  nicknames: string[];
  codes: string[];
  behaviour: Overrides;
  sizes: Size[];
  note: string;
};

/** What a cell may not be. The message says why, in a sentence without the column's name. */
export class CellError extends Error {}

const refuse = (why: string): never => {
  throw new CellError(why);
};

export type ReadContext = {
  /** Types of one's own: their word in lower case, and the type they inherit from. */
  ownTypes: ReadonlyMap<string, VinylTypeKey>;
};

export type Column = {
  key: string;
  word: string;
  about: string;
  needed?: boolean;
  /** Puts what a cell says into the record. @throws CellError */
  read: (text: string, into: CatalogueRecord, context: ReadContext) => void;
  /** What the cell says for a record, to be read again to the digit; empty where it follows the type. */
  write: (from: CatalogueRecord) => string;
  /** The same for people, where a unit or rounding helps. */
  say?: (from: CatalogueRecord) => string;
};

const tidy = (n: number): string => String(Number(n.toPrecision(12)));

const limited = (text: string, max: number): string =>
  text.length > max ? refuse(`has ${text.length} characters; ${max} fit`) : text;

const listOf = (text: string, each: number, most: number): string[] => {
  const items = text
    .split(';')
    .map((t) => t.trim())
    .filter(Boolean);
  if (items.length > most) refuse(`names ${items.length}; ${most} fit`);
  return [...new Set(items.map((t) => limited(t, each)))];
};

const oneOf =
  <T extends string>(choices: readonly T[]) =>
  (text: string): T =>
    choices.find((c) => c === text.toLowerCase()) ?? refuse(`is not one of ${choices.join(', ')}`);

const lengthUnits: Record<string, (n: number) => number> = {
  µm: (n) => Math.round(n),
  um: (n) => Math.round(n),
  mm: mmToMicrometres,
  cm: (n) => mmToMicrometres(n * 10),
  m: (n) => mmToMicrometres(n * 1000),
  in: inchesToMicrometres,
  '"': inchesToMicrometres,
  ft: (n) => inchesToMicrometres(n * 12),
  mil: (n) => inchesToMicrometres(n / 1000),
};
const known = Object.keys(lengthUnits).join(', ');

/** A length with its unit, or in the column's own unit without one. Answers µm. */
export function readLength(text: string, unit: string, limits: { min: number; max: number }): number {
  const match = /^([-+\d.,½¼¾/ ]+?)\s*([^\d.,\s]*)$/u.exec(text.replace(/μ/g, 'µ').trim());
  const value = match && parseDecimal(match[1]!);
  if (value === undefined || value === null) return refuse(`is not a length: "${text.slice(0, 30)}"`);
  const into = lengthUnits[(match![2] || unit).toLowerCase()];
  if (!into) return refuse(`has the unit "${match![2]}", which is no length; use ${known}`);
  const um = into(value);
  if (um < limits.min || um > limits.max)
    refuse(`lies outside ${limits.min / 1000} to ${limits.max / 1000} mm: "${text.slice(0, 30)}"`);
  return um;
}

/** A heat; the unit must stand there, since one read as the other burns. Answers m°C. */
export function readHeat(text: string): number {
  const match = /^([-+\d.,]+)\s*°?\s*([a-z]*)$/i.exec(text.trim());
  const value = match && parseDecimal(match[1]!);
  if (value === undefined || value === null) return refuse(`is not a temperature: "${text.slice(0, 30)}"`);
  const unit = match![2]!.toLowerCase();
  if (unit === '') return refuse('says no unit: write °F or °C, one read as the other burns');
  if (!['c', 'f', 'celsius', 'fahrenheit'].includes(unit)) return refuse(`has the unit "${match![2]}"; write °F or °C`);
  const mc = toMilliCelsius(value, unit.startsWith('c') ? 'C' : 'F');
  if (mc < heatLimits.min || mc > heatLimits.max)
    refuse(`${text.slice(0, 30)} is no heat of a press: 100 to 220 °C, 212 to 428 °F`);
  return mc;
}
const writeHeat = (mc: number): string => `${tidy(mc / 1000)} °C`;
/** Whole degrees in both units, as presses show them. */
const sayHeat = (mc: number): string => bothHeats(mc, 'C');

function readSeconds(text: string): [number, number] {
  const match = /^(\d{1,3})(?:\s*(?:-|–|to)\s*(\d{1,3}))?\s*(s|sec|seconds)?$/i.exec(text.trim());
  if (!match) return refuse(`is not a time in seconds, as 12 or 10-15: "${text.slice(0, 30)}"`);
  const [from, to] = [Number(match[1]), Number(match[2] ?? match[1])];
  if (from < 1 || to > 180 || from > to) return refuse('lies outside 1 to 180 seconds, the smaller number first');
  return [from, to];
}

/** What spreadsheets call types beside their own words. Common practice, no source. */
const alsoSaid: Readonly<Record<string, VinylTypeKey>> = {
  // "HTV" alone, "iron-on", "heat transfer": the plain one.
  '': 'smooth',
  plain: 'smooth',
  standard: 'smooth',
  regular: 'smooth',
  pu: 'smooth',
  matte: 'smooth',
  flocked: 'flock',
  velvet: 'flock',
  '3d puff': 'puff',
  holo: 'holographic',
  hologram: 'holographic',
  metallic: 'foil',
  mirror: 'foil',
  printed: 'printable',
  'self adhesive': 'adhesive',
  sticker: 'adhesive',
  permanent: 'adhesive',
  sign: 'adhesive',
  'stick on': 'adhesive',
  'low temperature': 'low-heat',
  'low temp': 'low-heat',
  leather: 'faux-leather',
};

function readType(text: string, into: CatalogueRecord, { ownTypes }: ReadContext): void {
  const said = text.toLowerCase();
  const own = ownTypes.get(said);
  if (own) {
    into.type = own;
    into.ownType = text;
    return;
  }
  const plain = said
    .replace(/[_-]+/g, ' ')
    .replace(/\b(htv|heat transfer( vinyl)?|iron on( vinyl)?|vinyl|film|t shirt vinyl)\b/g, '')
    .replace(/\s+/g, ' ')
    .trim();
  const key =
    vinylTypeKeys.find((k) => k === said || vinylTypes[k].word === said) ??
    vinylTypeKeys.find((k) => vinylTypes[k].word === plain) ??
    alsoSaid[plain];
  into.type =
    key ??
    refuse(
      `"${text.slice(0, 40)}" is no type known here; name it in the workshop first, or use one of ${vinylTypeKeys.join(', ')}`,
    );
  into.ownType = '';
}

function readColours(text: string): CatalogueRecord['colours'] {
  const colours = listOf(text, 90, 60).map((item) => {
    const match = /^(.*?)\s*(#\S*)?$/u.exec(item)!;
    const name = match[1]!.trim();
    if (name === '') return refuse(`names no colour before "${match[2]}"`);
    if (match[2] !== undefined && !/^#[0-9a-f]{6}$/i.test(match[2]))
      return refuse(`"${match[2].slice(0, 20)}" is no colour: write # and six digits 0 to f`);
    return { name: limited(name, 80), hex: (match[2] ?? hexOfName(name)).toLowerCase() };
  });
  const twice = colours.find((c, i) => colours.findIndex((o) => o.name.toLowerCase() === c.name.toLowerCase()) < i);
  if (twice) refuse(`names ${twice.name} twice`);
  return colours;
}

const CURRENCY = /^(?:([A-Z]{3})\s*)?(\d{1,7}(?:[.,]\d{1,2})?)(?:\s*([A-Z]{3}))?$/;
function readPrice(text: string): { minor: number; currency: string } {
  const match = CURRENCY.exec(text.trim());
  const currency = match && (match[1] ?? match[3]);
  if (!match || !currency) return refuse(`is not a price with its currency, as 12.50 EUR: "${text.slice(0, 30)}"`);
  return { minor: Math.round(parseDecimal(match[2]!)! * 100), currency };
}

/** One size as people write it: "roll 305 mm x 5 m 12.50 EUR". */
function readSize(item: string): Size {
  const match = /^(roll|sheet)\s+(.+?)\s*[x×]\s*([\d.,]+\s*[^\s\d]*)\s*(.*)$/iu.exec(item);
  if (!match) return refuse(`is not a size, as roll 305 mm x 5 m: "${item.slice(0, 40)}"`);
  const limits = { min: 10_000, max: 100_000_000 };
  return {
    kind: match[1]!.toLowerCase() as Size['kind'],
    widthUm: readLength(match[2]!, 'mm', limits),
    lengthUm: readLength(match[3]!, 'mm', limits),
    ...(match[4] ? { price: readPrice(match[4]) } : {}),
  };
}
const writeSize = (s: Size): string =>
  `${s.kind} ${tidy(s.widthUm / 1000)} mm x ${tidy(s.lengthUm / 1000)} mm${s.price ? ` ${(s.price.minor / 100).toFixed(2)} ${s.price.currency}` : ''}`;

/** A column whose cell is one property of the behaviour. */
function property<K extends keyof Overrides>(
  key: string,
  of: K,
  word: string,
  about: string,
  read: (text: string) => NonNullable<Overrides[K]>,
  write: (value: NonNullable<Overrides[K]>) => string,
  say?: (value: NonNullable<Overrides[K]>) => string,
): Column {
  const told =
    (tell: (value: NonNullable<Overrides[K]>) => string) =>
    ({ behaviour }: CatalogueRecord) =>
      behaviour[of] === undefined ? '' : tell(behaviour[of] as NonNullable<Overrides[K]>);
  return {
    key,
    word,
    about,
    ...(say ? { say: told(say) } : {}),
    read: (text, into) => void (into.behaviour = { ...into.behaviour, [of]: read(text) }),
    write: told(write),
  };
}
const length = <K extends 'filmUm' | 'carrierUm' | 'minFeatureUm' | 'minGapUm' | 'growthUm' | 'minLengthUm'>(
  key: string,
  of: K,
  word: string,
  unit: 'µm' | 'mm',
  max: number,
): Column =>
  property(
    key,
    of,
    word,
    `in ${unit}, or with its unit`,
    (text) => readLength(text, unit, { min: 0, max }),
    (um) => tidy(unit === 'µm' ? um : um / 1000),
    (um) => (um === 0 ? '0' : `${tidy(unit === 'µm' ? um : um / 1000)} ${unit}`),
  );
const choice = <K extends 'side' | 'carrier' | 'mat' | 'carry' | 'opacity' | 'tack'>(
  key: string,
  of: K,
  word: string,
  choices: readonly NonNullable<Overrides[K]>[],
): Column =>
  property(key, of, word, choices.join(', '), oneOf(choices) as (t: string) => NonNullable<Overrides[K]>, String);

type Way = NonNullable<Overrides['press']>[number];
const ofPress = ({ behaviour }: CatalogueRecord, say: (way: Way) => string): string => {
  const way = fullPress(behaviour.press ?? []);
  return way ? say(way) : '';
};
/** The full press, a property at a time: seconds and peel must be there for it to be one. */
const pressing = (
  key: string,
  word: string,
  about: string,
  read: (text: string) => Partial<Way>,
  write: (way: Way) => string,
  say?: (way: Way) => string,
): Column => ({
  ...(say ? { say: (record: CatalogueRecord) => ofPress(record, say) } : {}),
  key,
  word,
  about,
  read: (text, into) => {
    const [first, ...others] = into.behaviour.press ?? [];
    const way = { cover: 'its own carrier', peel: 'by the leaflet', ...first, ...read(text) } as Way;
    into.behaviour = { ...into.behaviour, press: [way, ...others] };
  },
  write: (record) => ofPress(record, write),
});

/** Every column of the table of vinyls, for files in and out. One row is one vinyl. */
export const columns: readonly Column[] = [
  {
    key: 'brand',
    word: 'brand',
    about: 'as on the roll; may be empty',
    read: (text, into) => void (into.brand = limited(text, 80)),
    write: (r) => r.brand,
  },
  {
    key: 'name',
    word: 'name',
    about: 'as on the roll',
    needed: true,
    read: (text, into) => void (into.name = limited(text, 120)),
    write: (r) => r.name,
  },
  {
    key: 'type',
    word: 'type',
    about: `one of ${vinylTypeKeys.join(', ')}, or a type of your own`,
    needed: true,
    read: readType,
    write: (r) => r.ownType || r.type,
  },
  {
    key: 'colours',
    word: 'colours',
    about: 'separated by semicolons, each with its swatch: ember red #b0203a; gold #c99a2c',
    read: (text, into) => void (into.colours = readColours(text)),
    write: (r) => r.colours.map((c) => `${c.name} ${c.hex}`).join('; '),
  },
  {
    key: 'nicknames',
    word: 'also called',
    about: 'other names, separated by semicolons',
    read: (text, into) => void (into.nicknames = listOf(text, 80, 20)),
    write: (r) => r.nicknames.join('; '),
  },
  {
    key: 'codes',
    word: 'codes',
    about: 'text of the codes on its packs, separated by semicolons',
    read: (text, into) => void (into.codes = listOf(text, 80, 20)),
    write: (r) => r.codes.join('; '),
  },
  choice('side', 'side', 'lies on the mat', ['carrier down', 'backing down', 'face down']),
  property(
    'mirror',
    'cutFrom',
    'mirrored',
    'yes or no',
    (text) => (oneOf(['yes', 'no'])(text) === 'yes' ? 'back' : 'face'),
    (from) => (from === 'back' ? 'yes' : 'no'),
  ),
  choice('carrier', 'carrier', 'side of the carrier', ['shiny', 'dull', 'unknown']),
  choice('mat', 'mat', 'mat', ['ordinary', 'high grip', 'none']),
  choice('carry', 'carry', 'carried by', ['none', 'tape', 'mask']),
  length('film_um', 'filmUm', 'film', 'µm', 5000),
  length('carrier_um', 'carrierUm', 'carrier', 'µm', 2000),
  length('least_line_mm', 'minFeatureUm', 'least line', 'mm', 50_000),
  length('least_gap_mm', 'minGapUm', 'least gap', 'mm', 50_000),
  length('growth_mm', 'growthUm', 'grows by', 'mm', 10_000),
  length('least_length_mm', 'minLengthUm', 'least length', 'mm', 1_000_000),
  choice('opacity', 'opacity', 'opacity', ['opaque', 'translucent', 'clear']),
  property(
    'wear',
    'wear',
    'blade wear',
    'times plain film, 0.1 to 20',
    (text) => {
      const value = parseDecimal(text);
      return value !== undefined && value >= 0.1 && value <= 20
        ? value
        : refuse(`is not a number from 0.1 to 20: "${text.slice(0, 30)}"`);
    },
    tidy,
  ),
  choice('tack', 'tack', 'tack', ['low', 'medium', 'high']),
  property(
    'heat_range',
    'heat',
    'heat it takes',
    'from – to, each with °F or °C',
    (text) => {
      const parts = text.split(/\s*(?:–|\.\.| to )\s*/);
      if (parts.length !== 2) return refuse(`is not a range of heat, as 145 °C – 160 °C: "${text.slice(0, 30)}"`);
      const [from, to] = [readHeat(parts[0]!), readHeat(parts[1]!)];
      return from <= to ? { from, to } : refuse('has the hotter end first');
    },
    (h) => `${writeHeat(h.from)} – ${writeHeat(h.to)}`,
    (h) => `${sayHeat(h.from)} – ${sayHeat(h.to)}`,
  ),
  property(
    'not_on',
    'notOn',
    'not on',
    `fabrics it must not meet, separated by semicolons: ${fabricTraits.join(', ')}`,
    (text) => listOf(text, 40, fabricTraits.length).map(oneOf(fabricTraits)),
    (traits) => traits.join('; '),
  ),
  pressing(
    'press_seconds',
    'press time',
    'seconds, as 12 or 10-15',
    (text) => ({ seconds: readSeconds(text) }),
    (w) => [...new Set(w.seconds)].join('-'),
    (w) => saySeconds(w.seconds),
  ),
  pressing(
    'press_heat',
    'press heat',
    'with °F or °C',
    (text) => ({ heat: readHeat(text) }),
    (w) => (w.heat === undefined ? '' : writeHeat(w.heat)),
    (w) => (w.heat === undefined ? '' : sayHeat(w.heat)),
  ),
  pressing(
    'press_pressure',
    'press pressure',
    pressures.join(', '),
    (text) => ({ pressure: oneOf(pressures)(text) }),
    (w) => w.pressure ?? '',
  ),
  pressing(
    'press_cover',
    'pressed under',
    'its own carrier, baking paper …',
    (text) => ({ cover: limited(text, 60) }),
    (w) => w.cover,
  ),
  pressing(
    'press_peel',
    'peel',
    peels.join(', '),
    (text) => ({ peel: oneOf(peels)(text) }),
    (w) => w.peel,
  ),
  pressing(
    'press_then',
    'after the peel',
    'what follows',
    (text) => ({ then: limited(text, 200) }),
    (w) => w.then ?? '',
  ),
  {
    key: 'sizes',
    word: 'sizes',
    about: 'separated by semicolons: roll 305 mm x 5 m 12.50 EUR',
    read: (text, into) => void (into.sizes = listOf(text, 80, 12).map(readSize)),
    write: (r) => r.sizes.map(writeSize).join('; '),
  },
  {
    key: 'note',
    word: 'note',
    about: 'anything else',
    read: (text, into) => void (into.note = limited(text, 2000)),
    write: (r) => r.note,
  },
];
/** What a column says of a record, for people. */
export const sayCell = (column: Column, record: CatalogueRecord): string => (column.say ?? column.write)(record);
export const columnByKey = (key: string): Column | undefined => columns.find((c) => c.key === key);
