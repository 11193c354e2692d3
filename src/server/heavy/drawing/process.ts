import { setPriority } from 'node:os';

import sharp from 'sharp';

import { DRAWING, type DrawingName } from './tasks';

/* The process that decodes and draws: one task at a time, behind everything that answers people. */

sharp.concurrency(1);
sharp.cache(false);
try {
  setPriority(10);
} catch {
  // Not allowed here: then it runs beside the others.
}

process.on('message', ({ name, input }: { readonly name: DrawingName; readonly input: readonly never[] }) => {
  const task = DRAWING[name] as (...given: readonly never[]) => Promise<unknown>;
  task(...input).then(
    (value) => process.send!({ value }),
    (error: unknown) => process.send!({ error: error instanceof Error ? error.message : String(error) }),
  );
});
// Whoever asked is gone: nobody else ends what a library may still be busy with.
process.on('disconnect', () => process.kill(process.pid, 'SIGKILL'));
