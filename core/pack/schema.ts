import { z } from 'zod';
import { cutterModelSchema, settingSchema } from '../controls/index.ts';
import { gradeWords } from '../grades/index.ts';
import { outcomes } from '../proof/index.ts';
import { leafletSchema, oldOverridesSchema, overridesSchema, vinylTypeKeys } from '../vinyls/index.ts';
import { aroundSchema, gradedCellSchema, targetSchema } from '../window/index.ts';

/** Media type of a pack, for HTTP and for files (vendor tree, RFC 6838, 3.2; suffix as in RFC 6839). */
export const PACK_MEDIA_TYPE = 'application/vnd.versipel.pack+json';
/** Packs whose vinyls are pressed by ways of one press; and those with sequences and keys. The first is written wherever it says enough. */
export const PACK_FORMAT = 'versipel-pack/1';
const PACK_FORMAT_2 = 'versipel-pack/2';
export const packFormats = [PACK_FORMAT, PACK_FORMAT_2] as const;
export const CHECKSUM_METHOD = 'SHA-256 of RFC 8785';

/** What a pack may hold at most: beyond, it is refused before it is read any further. */
export const packLimits = {
  bytes: 20_000_000,
  /** Levels of objects and lists within each other; a pack needs 13. */
  depth: 24,
  /** Values, keys and brackets. */
  tokens: 6_000_000,
  cards: 2000,
  /** Of all cards together: each is read anew where it arrives, which takes a third of a second. */
  versions: 4000,
};

/** Licences under which something may be handed on. A card that may only be read goes into no pack. */
export const openLicences = ['cc-by', 'cc-by-sa', 'cc0'] as const;

const key = z.uuid();
/** Of people and machines: never the key of an account, which is of another version. */
const nym = z.uuid({ version: 'v8' });
const said = (max: number) => z.string().max(max);
const line = (max: number) => said(max).regex(/^[^\p{Cc}\u2028\u2029]*$/u, 'one line without control characters');
const lines = (max: number) => said(max).regex(/^(?:[^\p{Cc}]|\n)*$/u, 'no control characters but line breaks');
const hex = z.string().regex(/^#[0-9a-f]{6}$/);
const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
/** A crafter's own clock without its zone, which would tell where somebody lives: the day is what evidence goes by. */
const wallClock = z.iso.datetime({ local: true, offset: false }).max(30);
const steps = settingSchema.strict().refine((s) => Object.values(s.steps).every((v) => Math.abs(v) <= 1e6), {
  message: 'a step lies beyond every axis',
});

const personSchema = z.strictObject({
  key: nym.describe('a pseudonym: the same for all that one person did, and no key of an account'),
  name: line(80).min(1).optional().describe('of authors, who are to be named; others have none'),
});

const vinylSchema = z.strictObject({
  key,
  sameAs: key.optional().describe('another entry of the pack that was found to be the same vinyl'),
  brand: line(80),
  name: line(120).min(1),
  type: z.enum(vinylTypeKeys),
  recipe: overridesSchema.default({}).describe('how it lies and is pressed, where that differs from its type'),
  leaflet: leafletSchema.optional().describe('what its maker says'),
  nicknames: z.array(line(80).min(1)).max(40).default([]),
  colours: z
    .array(z.strictObject({ name: line(80).min(1), hex }))
    .max(500)
    .default([]),
});

const cutterSchema = z.strictObject({
  key: nym,
  person: nym,
  model: z.strictObject({ key: line(60), version: z.int().min(1).max(1e6) }),
  scales: z
    .array(z.strictObject({ position: z.int().min(-1e6).max(1e6), milligrams: z.int().min(1000).max(5_000_000) }))
    .max(500)
    .default([])
    .describe('what a kitchen scale showed under the tip'),
});
const bladeSchema = z.strictObject({ key: nym, angle: z.int().min(15).max(75).describe('degrees') });

const seenSchema = z.strictObject({
  at: wallClock,
  kind: z.enum(['coupon', 'job']),
  setting: steps,
  passes: z.int().min(1).max(9),
  grade: z.enum(gradeWords),
  angle: z.int().min(15).max(75),
  colour: line(80),
  batch: line(80),
});

export const packVersionSchema = z.strictObject({
  number: z.int().min(1).max(100_000),
  published: z.iso.datetime().max(30),
  change: lines(2000).describe('what changed and why'),
  licence: z.enum(openLicences),
  cutter: nym,
  blade: nym.optional(),
  vinyl: z
    .strictObject({ brand: line(80), name: line(120).min(1), type: z.enum(vinylTypeKeys), colour: line(80), hex })
    .describe('as it was called then'),
  setting: steps,
  conditions: lines(1000),
  asked: z
    .strictObject({ target: targetSchema.default({}), around: aroundSchema.optional() })
    .default({ target: {} })
    .describe('what the reading was asked for, beside the setting: with the cells it gives the same reading anywhere'),
  cells: z.array(gradedCellSchema).max(20_000).describe('the evidence as the fit takes it'),
  evidence: z.array(seenSchema).max(20_000).describe('the same as people read it'),
});

export const packConfirmationSchema = z.strictObject({
  key,
  version: z.int().min(1).max(100_000),
  person: nym,
  cutter: nym,
  blade: nym,
  at: wallClock,
  setting: steps,
  passes: z.int().min(1).max(9),
  grade: z.enum(gradeWords),
  outcome: z.enum(outcomes).optional().describe('what came of it, where that was said'),
  better: z.int().min(-1e6).max(1e6).optional().describe('position on the strength axis that did instead'),
  said: lines(2000).default(''),
  batch: line(80).min(1).optional(),
});

const cardSchema = z.strictObject({
  key,
  person: nym.describe('its author'),
  vinyl: key,
  wanted: z.enum(['clean', 'through']),
  versions: z.array(packVersionSchema).min(1).max(200).describe('oldest first; those that may be handed on'),
  confirmations: z.array(packConfirmationSchema).max(5000).default([]).describe('what others found with it'),
});

const body = {
  format: z.enum(packFormats),
  made: z.iso.datetime().max(30),
  home: z
    .string()
    .max(200)
    .regex(/^(https?:\/\/[^\s/?#]+)?$/, 'an address like https://shelf.example, or nothing')
    .describe('the server it was made on'),
  title: line(200),
  author: line(80).describe('who put it together'),
  licence: z.enum(['cc0', 'cc-by']).describe('of the pack as a whole; each version of a card bears its own'),
  people: z.array(personSchema).max(20_000),
  models: z.array(cutterModelSchema).max(500),
  vinyls: z.array(vinylSchema).max(5000),
  cutters: z.array(cutterSchema).max(20_000),
  blades: z.array(bladeSchema).max(40_000),
  cards: z.array(cardSchema).max(packLimits.cards),
};

/** The first format that can say what vinyls of a pack are: with ways of one press, or with sequences, keys, and when it may be washed. */
export const formatFor = (
  vinyls: readonly { recipe?: unknown; leaflet?: { wash?: unknown } | null | undefined }[],
): (typeof packFormats)[number] =>
  vinyls.every((v) => v.leaflet?.wash === undefined && oldOverridesSchema.safeParse(v.recipe ?? {}).success)
    ? PACK_FORMAT
    : PACK_FORMAT_2;

/** A pack before it is sealed. */
export const packBodySchema = z.strictObject(body);
/** Cards with all that they rest on: vinyls, cutter models, evidence, what others found, under checksums. */
export const packSchema = z.strictObject({
  ...body,
  checksums: z
    .strictObject({
      method: z.literal(CHECKSUM_METHOD),
      pack: sha256.describe('of everything but "checksums"'),
      cards: z.array(z.strictObject({ card: key, sha256 })).max(packLimits.cards),
    })
    .describe('hexadecimal SHA-256 of the canonical form (RFC 8785)'),
});

export type Pack = z.infer<typeof packSchema>;
export type PackBody = z.infer<typeof packBodySchema>;
export type PackCard = Pack['cards'][number];
export type PackVersion = PackCard['versions'][number];
export type PackConfirmation = PackCard['confirmations'][number];
export type PackVinyl = Pack['vinyls'][number];
