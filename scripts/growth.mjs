// npm run bench:growth: pages, exports and saving over a large log, in a database of its own (made once, then kept).
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { freePort, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { pause } from './lib/processes.mjs';
import { run, tool } from './lib/run.mjs';
import { serve } from './lib/server.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
checkNode();
await ensureDebian(['postgresql']);
await ensureModules();
const cluster = await startCluster('postgres-growth', 'red_plumb_growth');
const port = await freePort(3300);
const url = `http://127.0.0.1:${port}`;
const env = {
  ...process.env,
  DATABASE_URL: cluster.url,
  PORT: String(port),
  RED_PLUMB_LOG: resolve('.local', 'growth.log'),
  RED_PLUMB_TEST_URL: url,
};
const [node, tsx] = tool('tsx/dist/cli.mjs');
let server = null;
try {
  await run(node, [tsx, 'scripts/prepareDatabase.ts', '--reset'], { env });
  await run(node, [tsx, 'bench/seedGrowth.ts'], { env });
  await ensureBuild('.next');
  server = serve(env, '.next');
  while (
    !(await fetch(`${url}/api/health`).then(
      (r) => r.ok,
      () => false,
    ))
  )
    await pause(250);
  process.exitCode = await run(node, [tsx, 'bench/growth.ts'], {
    env: { ...env, RED_PLUMB_SERVER: String(server.pid) },
  });
} finally {
  server?.kill('SIGTERM');
  await cluster.stop();
}
