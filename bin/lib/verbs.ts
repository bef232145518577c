import { z } from 'zod';
import { artwork, artworkInputSchema } from '#core/artwork/index.ts';
import { controls, controlsInputSchema, fitScale, scaleInputSchema } from '#core/controls/index.ts';
import { couponInputSchema, couponSvg, layCoupon } from '#core/coupon/index.ts';
import { piecesOf, readHpgl, writeDxf, writeHpgl } from '#core/cutfile/index.ts';
import { evennessInputSchema, fitEvenness } from '#core/evenness/index.ts';
import { jobInputSchema, jobSheet } from '#core/job/index.ts';
import { checkPack, packBodySchema, packSchema, parseGuarded, sealPack, type Pack } from '#core/pack/index.ts';
import { layers, layersInputSchema, recipeInputSchema, recipes, swatch, swatchInputSchema } from '#core/press/index.ts';
import { place, placeInputSchema } from '#core/place/index.ts';
import { compareWays, planCoupon, planInputSchema } from '#core/planner/index.ts';
import { camps, campsInputSchema, standing, standingInputSchema } from '#core/proof/index.ts';
import { readShelf, shelfInputSchema, translate, translateInputSchema } from '#core/transfer/index.ts';
import { fit, fitInputSchema } from '#core/window/index.ts';

type Verb<S extends z.ZodType = z.ZodType> = {
  about: string;
  input: S;
  run: (input: z.infer<S>) => unknown;
  /** Reads its input by itself, as text from somebody unknown. */
  read?: (text: Uint8Array) => unknown;
};
const verb = <S extends z.ZodType>(about: string, input: S, run: (input: z.infer<S>) => unknown): Verb => ({
  about,
  input,
  run: run as Verb['run'],
});

/** Every verb of bin/core, with the schema of what it takes. docs/schemas is made from this table. */
export const verbs: Record<string, Verb> = {
  fit: verb('reads graded cells: the window, what to set, how sure', fitInputSchema, fit),
  plan: verb('plans the cells of the next coupon', planInputSchema, planCoupon),
  ways: verb('one pass against two, slow against fast, each at its best strength', planInputSchema, (input) => ({
    format: 'versipel-ways/1',
    ways: compareWays({ ...input, also: input.also.length > 0 ? input.also : ['passes', 'speed'] }),
  })),
  evenness: verb(
    'fits how evenly a cutter presses over its mat to one figure graded in many places',
    evennessInputSchema,
    (input) => ({ format: 'versipel-evenness-result/1', ...fitEvenness(input) }),
  ),
  controls: verb('checks and says a whole setting of any cutter model', controlsInputSchema, controls),
  coupon: verb('lays a coupon out in µm and draws it as SVG, HPGL and DXF', couponInputSchema, (input) => {
    const sheet = layCoupon(input);
    return {
      format: 'versipel-coupon-sheet/1',
      sheet,
      svg: couponSvg(sheet, input.model),
      hpgl: writeHpgl(piecesOf(sheet, input.model)),
      dxf: writeDxf(piecesOf(sheet, input.model)),
      files: sheet.cells.map((c) => ({ name: `cell-${c.number}.svg`, svg: couponSvg(sheet, input.model, c.number) })),
    };
  }),
  standing: verb('where a setting stands by its evidence, and why', standingInputSchema, standing),
  camps: verb(
    'whether settings of one vinyl fall into two schools, and what tells them apart',
    campsInputSchema,
    camps,
  ),
  translate: verb(
    'the crossed and nested mixed model of values that vary with several things at once',
    translateInputSchema,
    translate,
  ),
  shelf: verb('translates settings between cutters: an axis and a slope a model', shelfInputSchema, readShelf),
  pack: {
    ...verb('checks a pack from its bytes to its last setting, and says what is in it', packSchema, (pack: Pack) => ({
      format: 'versipel-pack-result/1',
      checksum: pack.checksums.pack,
      cards: pack.cards.length,
      versions: pack.cards.reduce((n, c) => n + c.versions.length, 0),
      confirmations: pack.cards.reduce((n, c) => n + c.confirmations.length, 0),
      people: pack.people.length,
      vinyls: pack.vinyls.length,
      models: pack.models.length,
    })),
    read: (text) => checkPack(parseGuarded(text)),
  },
  seal: verb('adds the checksums to a pack that has none yet', packBodySchema, sealPack),
  scale: verb('fits what a strength axis means in grams to scale readings', scaleInputSchema, fitScale),
  'read-hpgl': verb(
    'reads an HPGL file into paths in µm, y upwards',
    z.strictObject({ format: z.literal('versipel-hpgl/1'), hpgl: z.string().max(20_000_000) }),
    ({ hpgl }) => ({ format: 'versipel-hpgl-result/1', ...readHpgl(hpgl) }),
  ),
  artwork: verb(
    'reads an SVG drawing: its layers, their pieces, and where they are too narrow for a vinyl',
    artworkInputSchema,
    artwork,
  ),
  place: verb('lays a design on a blank: width, margins and the place of its anchor', placeInputSchema, place),
  layers: verb(
    'plans how layers are pressed: order, heats, who gets the full time, what cools before what',
    layersInputSchema,
    layers,
  ),
  recipe: verb(
    'ways to press a vinyl on a fabric: where each stands by what came out of the press, the best first',
    recipeInputSchema,
    recipes,
  ),
  swatch: verb(
    'reads squares pressed at several heats and times: where film bonds and nothing suffers, and the next card',
    swatchInputSchema,
    swatch,
  ),
  job: verb(
    'the run sheet of a job: every step with its state, from its plan and what hands did',
    jobInputSchema,
    jobSheet,
  ),
};

/** The first complaint of Zod as one line: where it is and what is wrong. */
export function firstProblem(error: z.ZodError): string {
  const issue = error.issues[0]!;
  const where = issue.path
    .map((p) => (typeof p === 'number' ? `[${p}]` : `.${String(p)}`))
    .join('')
    .replace(/^\./, '');
  return where ? `${where}: ${issue.message}` : issue.message;
}
