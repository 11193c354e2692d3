// npm run backup [FILE] · npm run restore FILE [-- --yes]: the whole shop into one open file, and back again.
import { dirname } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { fileURLToPath } from 'node:url';

import { startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { run, tool } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
const [what, ...rest] = process.argv.slice(2);
const sure = rest.includes('--yes');
const [file] = rest.filter((word) => word !== '--yes');
checkNode();
if (what === 'restore') {
  if (!file) giveUp('Name the archive to restore: npm run restore FILE');
  if (!sure && !(await confirmed())) giveUp('Nothing was changed.');
}
const given = process.env.DATABASE_URL;
if (!given) await ensureDebian(['postgresql']);
await ensureModules();
const cluster = given ? { url: given, stop: () => undefined } : await startCluster('postgres', 'red_plumb');
try {
  const [node, tsx] = tool('tsx/dist/cli.mjs');
  process.exitCode = await run(node, [tsx, 'scripts/backup.ts', what, ...(file ? [file] : [])], {
    env: { ...process.env, DATABASE_URL: cluster.url },
  });
} finally {
  await cluster.stop();
}

async function confirmed() {
  if (!process.stdin.isTTY) giveUp('Restoring replaces everything that is there; add --yes to confirm.');
  say('Restoring replaces everything that is there. A backup of it is made first.');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question('Type “restore” to go on: ');
  ask.close();
  return answer.trim() === 'restore';
}
