import { sql } from 'drizzle-orm';

import { closeDatabase, database } from '../src/db/client';
import { migrateDatabase } from '../src/db/migrate';
import { setups, shopFacts } from '../src/db/schema';
import { loadDemo } from '../src/server/demo/demo';
import { loadShopYear } from '../src/server/demo/shopYear';
import { letFilesGo } from '../src/server/files/keepFiles';

/** Migrates, and loads the demo once into an empty database. Flags: --no-demo, --shop-year, --reset. */
async function prepare(flags: readonly string[]): Promise<void> {
  const db = database();
  if (flags.includes('--reset'))
    // All of it or nothing: a start that is cut off here leaves what was there.
    await db.transaction(async (tx) => {
      await tx.execute(sql`drop schema if exists public cascade`);
      await tx.execute(sql`drop schema if exists drizzle cascade`);
      await tx.execute(sql`create schema public`);
    });
  await migrateDatabase();
  await prepareShop(
    flags.includes('--no-demo') ? 'empty' : flags.includes('--shop-year') ? 'shop-year' : 'demo',
  );
  const gone = await letFilesGo({ db, now: () => new Date(), origin: '' });
  if (gone > 0) console.log(`red plumb  ${gone} old cut files were let go; the log still tells of them`);
}

const FILLINGS = {
  demo: ['the demo: the print room of a small island ferry company', loadDemo],
  'shop-year': ['a year of a full shop: three rigs, twelve media (a minute or two)', loadShopYear],
} as const;

/** The demo and the mark that it was loaded are one transaction: cut off in the middle, the next start begins anew. */
async function prepareShop(filling: keyof typeof FILLINGS | 'empty'): Promise<void> {
  await database().transaction(async (tx) => {
    await tx.execute(sql`set local idle_in_transaction_session_timeout = 0`);
    const [first] = await tx
      .insert(shopFacts)
      .values({ name: 'prepared', value: filling, at: new Date() })
      .onConflictDoNothing()
      .returning();
    const [setup] = await tx.select({ id: setups.id }).from(setups).limit(1);
    if (!first || filling === 'empty' || setup) return;
    const [words, load] = FILLINGS[filling];
    console.log(`red plumb  loading ${words}`);
    await load(tx);
  });
}

prepare(process.argv.slice(2))
  .catch((error: unknown) => {
    console.error(
      `red plumb  the database could not be prepared: ${error instanceof Error ? error.message : String(error)}`,
    );
    if (error instanceof Error && error.cause instanceof Error)
      console.error(`red plumb  because: ${error.cause.message}`);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
