// npm test: sets up like npm start, then formatting, lint, types, unit, integration, build, browser.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { ensureDatabase, freePort, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { run, tool } from './lib/run.mjs';
import { serve } from './lib/server.mjs';
import { say } from './lib/say.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
checkNode();
const given = process.env.DATABASE_URL;
await ensureDebian([...(given ? [] : ['postgresql']), 'chromium', 'hp2xx', 'python3-ezdxf']);
await ensureModules();

// A database of its own, so that the tests can run while the application runs.
const cluster = given
  ? await besideGiven(given)
  : await startCluster('postgres-test', 'red_plumb_test', { durable: false });
const port = await freePort(3100);
const env = {
  ...process.env,
  DATABASE_URL: cluster.url,
  PORT: String(port),
  RED_PLUMB_DIST: '.next-test',
  RED_PLUMB_LOG: resolve('.local', 'test.log'),
  RED_PLUMB_TEST_URL: `http://127.0.0.1:${port}`,
  NEXT_TELEMETRY_DISABLED: '1',
};
const [node, next] = tool('next/dist/bin/next');
const [, tsx] = tool('tsx/dist/cli.mjs');
const counts = { passed: 0, failed: 0 };
let server = null;
let ended = false;

async function end() {
  if (ended) return;
  ended = true;
  if (server && server.exitCode === null) server.kill('SIGKILL');
  await cluster.stop();
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
  process.on(signal, () => void end().then(() => process.exit(130)));

try {
  mkdirSync('.local', { recursive: true });
  await step('formatting', tool('prettier/bin/prettier.cjs'), ['--check', '.', '--log-level', 'warn']);
  await step('lint', tool('eslint/bin/eslint.js'), ['.', '--max-warnings', '0']);
  await run(node, [next, 'typegen'], { env, stdio: 'ignore' });
  await step('types', tool('typescript/bin/tsc'), ['--noEmit']);
  await step('the start script', [node, '--test'], ['scripts/lib/']);
  await unit('core and screens', 'core');
  if ((await run(node, [tsx, 'scripts/prepareTemplate.ts'], { env })) !== 0) counts.failed += 1;
  await unit('database', 'database');
  await prepared();
  say('building for the browser tests …');
  await ensureBuild('.next-test');
  counts.passed += 1;
  server = serve(env, '.next-test');
  await counted('browser tests', tool('@playwright/test/cli.js'), ['test'], '.local/playwright.json', (r) => [
    r.stats.expected + r.stats.flaky,
    r.stats.unexpected,
  ]);
  // Somebody’s own database is not killed.
  if (!given) await step('kills', [node, 'scripts/kills.mjs'], ['6', '--quick']);
} finally {
  await end();
}
console.log(`${counts.passed} passed, ${counts.failed} failed`);
process.exit(counts.failed > 0 || counts.passed === 0 ? 1 : 0);

async function step(name, [command, file], args) {
  say(`${name} …`);
  const code = await run(command, [file, ...args], { env });
  counts[code === 0 ? 'passed' : 'failed'] += 1;
  if (code !== 0) say(`${name}: failed`);
}

/** One of Jest’s projects. */
function unit(name, project) {
  return counted(
    `tests of ${name}`,
    tool('jest/bin/jest.js'),
    ['--selectProjects', project, '--json', '--outputFile=.local/jest.json', '--silent'],
    '.local/jest.json',
    (r) => [r.numPassedTests, r.numFailedTests + r.numRuntimeErrorTestSuites],
  );
}

async function counted(name, [command, file], args, report, read) {
  say(`${name} …`);
  rmSync(report, { force: true });
  const code = await run(command, [file, ...args], { env });
  const [passed, failed] = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : [0, 1];
  counts.passed += passed;
  counts.failed += failed === 0 && code !== 0 ? 1 : failed;
}

/** A fresh demo in the test database: every browser test run starts from the same log. */
async function prepared() {
  const code = await run(node, [tsx, 'scripts/prepareDatabase.ts', '--reset'], { env });
  if (code !== 0) counts.failed += 1;
}

async function besideGiven(url) {
  const name = new URL(url).pathname.slice(1);
  const address = (database) => Object.assign(new URL(url), { pathname: `/${database}` }).href;
  await ensureDatabase(() => address(name), `${name}_test`);
  return { url: address(`${name}_test`), stop: () => Promise.resolve() };
}
