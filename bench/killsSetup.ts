import { closeDatabase, database } from '../src/db/client';
import { addRig } from '../src/server/rigs/writeRig';
import { getSession } from '../src/server/sessions/loadSession';
import { currentPass } from '../src/server/sessions/session';
import { markPrinted } from '../src/server/sessions/printSheet';
import { startSession } from '../src/server/sessions/startSession';

import { ROLL_DRAFT } from '../test/setups';

/* A session that is being read, for scripts/kills.mjs: its pass and its combs, as JSON. */

async function main(): Promise<void> {
  const deps = { db: database(), now: () => new Date(), origin: '' };
  const setup = await addRig(deps, 'KT', ROLL_DRAFT);
  if (!setup.ok) throw new Error(JSON.stringify(setup.refusal));
  const started = await startSession(deps, 'KT', setup.value.setupId, 'calibration');
  if (!started.ok) throw new Error(JSON.stringify(started.refusal));
  await markPrinted(deps, 'KT', started.value.sessionId);
  const pass = currentPass((await getSession(deps, started.value.sessionId))!);
  const combs = pass.stations.flatMap((s) =>
    (['across', 'along'] as const).map((axis) => ({ stationId: s.id, axis })),
  );
  console.log(JSON.stringify({ passId: pass.id, combs }));
}

main()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
