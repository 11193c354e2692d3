import { setPriority } from 'node:os';
import { pipeline } from 'node:stream/promises';

import { failureOf } from '@/server/base/failure';

import { exported, isExport } from './made';
import { DATABASE_AWAY } from './exportStream';

/* The process that makes an export: `exports.mjs json` writes it to its output, as fast as that is taken. */

try {
  setPriority(10);
} catch {
  // Not allowed here: then it runs beside the others.
}

async function write(kind: string): Promise<void> {
  if (!isExport(kind)) throw new Error(`“${kind}” is no export`);
  const { stream, end } = await exported(kind, new Date());
  await pipeline(stream, process.stdout);
  await end();
}

write(process.argv[2] ?? '').catch((error: unknown) => {
  if (failureOf(error, '').kind === 'away') process.exit(DATABASE_AWAY);
  console.error(error);
  process.exit(1);
});
