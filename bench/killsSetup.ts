import { closeDatabase, database } from '../src/db/client';
import { addRig } from '../src/server/rigs/writeRig';
import { getSession } from '../src/server/sessions/loadSession';
import { currentPass } from '../src/server/sessions/session';
import { markPrinted } from '../src/server/sessions/printSheet';
import { startSession } from '../src/server/sessions/startSession';

import { ROLL_DRAFT } from '../test/setups';

/* Sessions that are being read, for scripts that kill and fill: their combs, each with its pass and session, as JSON. */

/** Combs enough that each of thirty clients has one of its own. */
const LEAST_COMBS = 30;

async function main(): Promise<void> {
  const deps = { db: database(), now: () => new Date(), origin: '' };
  const combs: object[] = [];
  for (let rig = 1; combs.length < LEAST_COMBS; rig += 1) {
    const setup = await addRig(deps, 'KT', { ...ROLL_DRAFT, name: `Roll rig ${rig}` });
    if (!setup.ok) throw new Error(JSON.stringify(setup.refusal));
    const started = await startSession(deps, 'KT', { setupId: setup.value.setupId, kind: 'calibration' });
    if (!started.ok) throw new Error(JSON.stringify(started.refusal));
    const { sessionId } = started.value;
    await markPrinted(deps, 'KT', sessionId);
    const pass = currentPass((await getSession(deps, sessionId))!);
    for (const s of pass.stations)
      for (const axis of ['across', 'along'] as const)
        combs.push({ sessionId, passId: pass.id, stationId: s.id, axis });
  }
  console.log(JSON.stringify(combs));
}

main()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
