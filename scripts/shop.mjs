// npm run backup [FILE] · npm run restore FILE [-- --yes]: the whole shop into one open file, and back again.
import { dirname } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { fileURLToPath } from 'node:url';

import { inShop } from './lib/inShop.mjs';
import { giveUp, say } from './lib/say.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
const [what, ...rest] = process.argv.slice(2);
const sure = rest.includes('--yes');
const [file] = rest.filter((word) => word !== '--yes');
if (what === 'restore') {
  if (!file) giveUp('Name the archive to restore: npm run restore FILE');
  if (!sure && !(await confirmed())) giveUp('Nothing was changed.');
}
process.exitCode = await inShop('scripts/backup.ts', [what, ...(file ? [file] : [])]);

async function confirmed() {
  if (!process.stdin.isTTY) giveUp('Restoring replaces everything that is there; add --yes to confirm.');
  say('Restoring replaces everything that is there. A backup of it is made first.');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question('Type “restore” to go on: ');
  ask.close();
  return answer.trim() === 'restore';
}
