import { closeDatabase } from '../src/db/client';
import { migrateDatabase } from '../src/db/migrate';
import { addressOf, asAdmin, TEMPLATE } from '../test/database';

/** The migrated, empty database that each database test gets a copy of. */
async function prepareTemplate(): Promise<void> {
  await asAdmin(`drop database if exists ${TEMPLATE} with (force)`, `create database ${TEMPLATE}`);
  process.env.DATABASE_URL = addressOf(TEMPLATE);
  await migrateDatabase();
}

prepareTemplate()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
