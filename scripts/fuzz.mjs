// npm run fuzz [count] [seed]: see fuzz.ts. Compiled first, as the server's own worker is; with no more memory than it has.
import { build } from 'esbuild';

import { run } from './lib/run.mjs';

const outfile = '.local/fuzz.mjs';
await build({
  ...{ entryPoints: ['scripts/fuzz.ts'], outfile, bundle: true, platform: 'node', format: 'esm' },
  logLevel: 'error',
});
process.exitCode = await run(process.execPath, [
  '--max-old-space-size=400',
  outfile,
  ...process.argv.slice(2),
]);
