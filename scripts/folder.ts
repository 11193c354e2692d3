import { resolve } from 'node:path';

import { watch } from 'chokidar';

import { closeDatabase, database } from '../src/db/client';
import { layFolders, takeFile } from '../src/server/files/folder';

/*
 * folder FOLDER: corrects what is put into it, until it is stopped. Run through `npm run folder`, which finds the
 * database. RED_PLUMB_SETTLED_MS: how long a file has to stay as it is before it counts as written.
 */

const SETTLED_MS = Number(process.env.RED_PLUMB_SETTLED_MS ?? 2000);
const LOOK_AGAIN_MS = Number(process.env.RED_PLUMB_LOOK_AGAIN_MS ?? 30_000);

const say = (words: string): void => console.log(`red plumb  ${words}`);

async function main([named]: readonly string[]): Promise<void> {
  if (!named) throw new Error('Name the folder: npm run folder -- FOLDER');
  const root = resolve(process.env.INIT_CWD ?? '.', named);
  const deps = { db: database(), now: () => new Date(), origin: '' };
  const waiting = new Set<string>();
  let working = false;
  /** One after the other, in the order in which they came. */
  const goOn = async (): Promise<void> => {
    if (working) return;
    working = true;
    for (const path of waiting) {
      waiting.delete(path);
      const taken = await takeFile(deps, path);
      if (taken.kind === 'gone') continue;
      if (taken.kind === 'later') later.add(path);
      say(
        taken.kind === 'corrected'
          ? taken.lines.slice(0, 2).join(' ')
          : `${path}: ${taken.kind === 'refused' ? 'refused' : 'later'}: ${taken.why}`,
      );
    }
    working = false;
  };
  const later = new Set<string>();
  const folders = await layFolders(deps, root);
  say(`watching ${root}: ${folders.size} setups, each with in, out, refused and done (Ctrl-C stops it)`);
  const watcher = watch(root, {
    depth: 2,
    awaitWriteFinish: { stabilityThreshold: SETTLED_MS, pollInterval: Math.min(200, SETTLED_MS / 2) },
    // Only what lies in an `in`, and nothing that hides.
    ignored: (path, stats) =>
      /(^|[/\\])\.[^/\\]*$/.test(path.slice(root.length)) ||
      (stats?.isFile() === true && !/[/\\]in[/\\][^/\\]+$/.test(path)),
  });
  watcher.on('add', (path) => {
    waiting.add(path);
    void goOn();
  });
  const again = setInterval(() => {
    for (const path of later) waiting.add(path);
    later.clear();
    // New setups get their folders; a renamed one keeps its own.
    void layFolders(deps, root).then(goOn, (error: Error) => say(error.message));
  }, LOOK_AGAIN_MS);
  await new Promise<void>((stop) => {
    for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => stop());
  });
  clearInterval(again);
  await watcher.close();
}

main(process.argv.slice(2))
  .catch((error: Error) => {
    console.error(`red plumb  ${error.message}`);
    process.exitCode = 1;
  })
  .finally(() => closeDatabase());
