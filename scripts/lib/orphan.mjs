// A web server whose starter was killed goes on alone: nobody looks after it, and the next start finds its port taken.
import { readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';

import { markLives, pause, processMark } from './processes.mjs';
import { say } from './say.mjs';

const fileOf = (port) => resolve('.local', `web-server-${port}.json`);
const ENDS_WITHIN_MS = 5000;

/** Writes down which process serves a port, and who looks after it. */
export function noteServer(pid, port, starter = process.pid) {
  try {
    writeFileSync(fileOf(port), JSON.stringify({ server: processMark(pid), starter: processMark(starter) }));
  } catch (error) {
    // On a full disk it goes without: the port tells the next start, and only whose it is is not known.
    if (error.code !== 'ENOSPC') throw error;
  }
}

/** Ends the web server that an earlier start left behind on this port; nothing that anybody looks after. True when it did. */
export async function endOrphan(port) {
  let noted;
  try {
    noted = JSON.parse(readFileSync(fileOf(port), 'utf8'));
  } catch {
    return false;
  }
  const lives = (mark) => typeof mark === 'string' && markLives(mark);
  if (!lives(noted.server) || lives(noted.starter)) return false;
  say('an earlier start was killed and left its web server behind; it is ended, and started anew');
  process.kill(Number(noted.server.split(' ')[0]), 'SIGKILL');
  for (let waited = 0; lives(noted.server) && waited < ENDS_WITHIN_MS; waited += 50) await pause(50);
  return true;
}
