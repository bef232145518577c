import { afterAll, beforeAll } from 'vitest';
import { closeDb } from '#store/base/db.ts';
import { stopComputing } from '#work/base/compute.ts';
import { publishShippedModels } from '#work/workshop/models.ts';
import { testDatabase } from './testDatabase.ts';

/** A house for the tests of one file: a database with the cutters that ship and nobody in it, gone once they have run. */
export function ownHouse(): { readonly url: string } {
  let database: Awaited<ReturnType<typeof testDatabase>> | undefined;
  beforeAll(async () => {
    database = await testDatabase();
    process.env.DATABASE_URL = database.url;
    await publishShippedModels();
  });
  afterAll(async () => {
    await stopComputing();
    await closeDb();
    await database?.drop();
  });
  return {
    get url() {
      return database!.url;
    },
  };
}
