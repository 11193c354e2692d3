import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

import { markLives, pause, processMark } from './processes.mjs';
import { giveUp } from './say.mjs';

const WAIT_MS = 90_000;

/** Runs `work` while no other start or stop of the same thing runs. A holder that was killed holds nothing. */
export async function alone(folder, work) {
  const until = Date.now() + WAIT_MS;
  const holder = join(folder, 'holder');
  for (;;) {
    try {
      mkdirSync(folder);
      break;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
    }
    const mark = read(holder);
    // Without a mark the holder may just be writing it: once more after a moment.
    if (mark === null) await pause(200);
    if (read(holder) === mark && (mark === null || !markLives(mark)))
      rmSync(folder, { recursive: true, force: true });
    else if (Date.now() > until)
      giveUp(`Another start or stop is still going on (process ${mark?.split(' ')[0]}). Try again later.`);
    else await pause(100);
  }
  try {
    writeFileSync(holder, processMark(process.pid));
    return await work();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Who uses a thing: a file for each process, so that the last one out puts out the light. */
export function users(folder) {
  const own = join(folder, String(process.pid));
  return {
    join: () => {
      mkdirSync(folder, { recursive: true });
      writeFileSync(own, processMark(process.pid));
    },
    leave: () => rmSync(own, { force: true }),
    /** Whether somebody else uses it; forgets those who were killed. */
    others: () =>
      filesOf(folder).filter((name) => {
        const file = join(folder, name);
        const mark = read(file);
        if (mark !== null && markLives(mark)) return name !== String(process.pid);
        rmSync(file, { force: true });
        return false;
      }).length > 0,
  };
}

function read(file) {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return null;
  }
}

function filesOf(folder) {
  try {
    return readdirSync(folder);
  } catch {
    return [];
  }
}
