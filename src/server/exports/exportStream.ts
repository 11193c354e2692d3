import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { Readable, Transform } from 'node:stream';

import { onePerProcess } from '@/process/onePerProcess';
import { TooBusy } from '@/server/base/failure';
import { endsWithServer } from '@/server/heavy/endsWithServer';

import { exported, type ExportKind } from './made';

/** So many are taken at once; pages go before them. Whoever finds no room comes again when one may be through. */
const AT_ONCE = 2;
const COME_AGAIN_S = 30;
/** Whoever takes nothing for so long makes way for the next. */
const STALLED_MS = 1000 * (Number(process.env.RED_PLUMB_STALLED_SECONDS) || 60);
const LOOK_MS = 1000;

/** What the process ends with when its database does not answer (EX_TEMPFAIL of sysexits.h). */
export const DATABASE_AWAY = 75;

const held = onePerProcess('exports', () => ({ open: 0 }));

/**
 * An export of this moment as a body, made only as fast as it is taken, by a process and on a connection of its own; when
 * nobody takes it any more, nothing goes on. RED_PLUMB_EXPORTS names the compiled process; where there is none (tests,
 * scripts) it is made where it is called.
 * Throws   TooBusy while as many as there is room for are being taken; what a lost database throws when it does not answer.
 */
export async function exportStream(kind: ExportKind): Promise<ReadableStream<Uint8Array>> {
  if (held.open >= AT_ONCE)
    throw new TooBusy(
      `Others are fetching the whole log just now, ${AT_ONCE} at a time. Come again in ${COME_AGAIN_S} seconds.`,
      COME_AGAIN_S,
    );
  held.open += 1;
  const through = watched();
  through.once('close', () => (held.open -= 1));
  try {
    const file = process.env.RED_PLUMB_EXPORTS;
    if (file) spawned(file, kind, through);
    else await here(kind, through);
    // What begins as an answer is not broken off at its first line.
    await once(through, 'readable');
  } catch (error) {
    through.destroy();
    throw error;
  }
  return Readable.toWeb(through) as ReadableStream<Uint8Array>;
}

/** What the bytes go through: gone when nobody takes them. */
function watched(): Transform {
  let last = Date.now();
  const through = new Transform({
    transform: (chunk, _, done) => {
      last = Date.now();
      done(null, chunk);
    },
  });
  const look = setInterval(() => {
    // Nothing to take is not the taker’s fault.
    if (!through.writableNeedDrain) last = Date.now();
    if (Date.now() - last > STALLED_MS) through.destroy(new Error('nobody takes this any more'));
  }, LOOK_MS);
  look.unref();
  through.once('close', () => clearInterval(look));
  return through;
}

function spawned(file: string, kind: ExportKind, through: Transform): void {
  const child = spawn(process.execPath, ['--max-old-space-size=200', '--max-semi-space-size=8', file, kind], {
    env: process.env,
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  endsWithServer(child);
  child.stdout.pipe(through, { end: false });
  through.once('close', () => child.kill('SIGKILL'));
  child.once('error', (error) => through.destroy(error));
  child.once('close', (code) => {
    if (code === 0) through.end();
    else if (code === DATABASE_AWAY)
      through.destroy(Object.assign(new Error('the database went away'), { code: 'ECONNRESET' }));
    else through.destroy(new Error(`the export broke off (${code})`));
  });
}

async function here(kind: ExportKind, through: Transform): Promise<void> {
  const { stream, end } = await exported(kind, new Date());
  stream.once('error', (error) => through.destroy(error));
  through.once('close', () => {
    stream.destroy();
    void end();
  });
  stream.pipe(through);
}
