// npm run shots: pictures of every main view, made from a fresh demo, into docs/screenshots.
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { run, tool } from './lib/run.mjs';
import { serve } from './lib/server.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
checkNode();
await ensureDebian(['postgresql', 'chromium']);
await ensureModules();
const cluster = await startCluster('postgres-test', 'red_plumb_shots', { durable: false });
const port = await freePort(3200);
const url = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  DATABASE_URL: cluster.url,
  PORT: String(port),
  RED_PLUMB_DIST: '.next-test',
  RED_PLUMB_LOG: resolve('.local', 'test.log'),
  RED_PLUMB_TEST_URL: url,
};
const [node, tsx] = tool('tsx/dist/cli.mjs');
let server = null;
try {
  await run(node, [tsx, 'scripts/prepareDatabase.ts', '--reset'], { env });
  await ensureBuild('.next-test');
  server = serve(env, '.next-test');
  process.exitCode = await run(node, [tsx, 'scripts/takeShots.ts', ...process.argv.slice(2)], { env });
} finally {
  server?.kill('SIGTERM');
  await cluster.stop();
}
