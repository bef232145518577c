import { hash } from '@node-rs/argon2';
import { limitsOf, shippedModel, startingSetting, strengthAxis } from '#core/controls/index.ts';
import { fit, MODEL_VERSION, PRIOR_VERSION, shownFit } from '#core/window/index.ts';
import { patiently, transaction } from '#store/base/db.ts';
import { analyse, fillDatabase, type Fill } from '#store/base/fill.ts';
import { publishShippedModels } from '#work/workshop/models.ts';

/**
 * Fills the database of DATABASE_URL, empty and migrated, with made-up vinyls, settings and graded cells.
 * @returns an account to sign in with
 */
export async function load(fill: Fill): Promise<{ email: string; password: string }> {
  await publishShippedModels();
  const model = shippedModel('marlow-24', 1)!;
  const result = fit({
    format: 'versipel-fit/1',
    model,
    type: 'smooth',
    wanted: 'clean',
    passes: 1,
    target: {},
    cells: [],
    seed: 1,
  });
  const password = 'lantern river seven';
  const passwordHash = await hash(password);
  const email = await transaction(async (q) => {
    await patiently(q, 3600);
    return fillDatabase(
      q,
      fill,
      {
        key: model.key,
        version: model.version,
        strength: strengthAxis(model).key,
        steps: startingSetting(model).steps,
        ...limitsOf(strengthAxis(model)),
      },
      {
        hash: Buffer.alloc(32, 1),
        modelVersion: MODEL_VERSION,
        priorVersion: PRIOR_VERSION,
        result,
        shown: shownFit(result),
      },
      passwordHash,
    );
  });
  await analyse();
  return { email, password };
}
