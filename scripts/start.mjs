// npm start [-- --no-demo | --reset-demo [--yes] | --dev]
import { spawn } from 'node:child_process';
import { dirname } from 'node:path';
import { createInterface } from 'node:readline/promises';
import { fileURLToPath } from 'node:url';

import { ensureBuild } from './lib/build.mjs';
import { isFree, startCluster } from './lib/cluster.mjs';
import { checkNode, ensureDebian, ensureModules } from './lib/packages.mjs';
import { run, tool } from './lib/run.mjs';
import { giveUp, say } from './lib/say.mjs';

process.chdir(dirname(dirname(fileURLToPath(import.meta.url))));
const flags = new Set(process.argv.slice(2));
const known = ['--no-demo', '--reset-demo', '--yes', '--dev'];
for (const flag of flags)
  if (!known.includes(flag)) giveUp(`“${flag}” is not known. Use ${known.join(', ')}.`);
const port = Number(process.env.PORT ?? 3000);
if (!(Number.isInteger(port) && port > 0 && port < 65536))
  giveUp(`PORT is “${process.env.PORT}”; use a number such as 3000.`);

checkNode();
if (!(await isFree(port)))
  giveUp(
    `Port ${port} is in use already, perhaps by another Red Plumb: open http://127.0.0.1:${port}, or set PORT to another number.`,
  );
const given = process.env.DATABASE_URL;
if (!given) await ensureDebian(['postgresql']);
await ensureModules();
const cluster = given ? { url: given, stop: () => undefined } : await startCluster('postgres', 'red_plumb');
const env = { ...process.env, DATABASE_URL: cluster.url, NEXT_TELEMETRY_DISABLED: '1' };

let server = null;
let ending = false;
async function end(code) {
  if (ending) return;
  ending = true;
  if (server && server.exitCode === null) {
    const gone = new Promise((done) => server.once('exit', done));
    server.kill('SIGTERM');
    await Promise.race([gone, new Promise((done) => setTimeout(done, 5000))]);
    if (server.exitCode === null) server.kill('SIGKILL');
  }
  cluster.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => end(0));

const [node, tsx] = tool('tsx/dist/cli.mjs');
const demo = [];
if (flags.has('--no-demo')) demo.push('--no-demo');
if (flags.has('--reset-demo')) {
  if (!flags.has('--yes') && !(await confirmReset())) {
    say('nothing was changed.');
    await end(0);
  }
  demo.push('--reset');
}
if ((await run(node, [tsx, 'scripts/prepareDatabase.ts', ...demo], { env })) !== 0) {
  say('The database could not be prepared; the message is above.');
  await end(1);
}

if (!flags.has('--dev')) await ensureBuild('.next');
const [, next] = tool('next/dist/bin/next');
const command = flags.has('--dev') ? 'dev' : 'start';
server = spawn(node, [next, command, '-H', '127.0.0.1', '-p', String(port)], {
  env: { ...env, NODE_ENV: flags.has('--dev') ? 'development' : 'production' },
  stdio: ['ignore', 'ignore', 'inherit'],
});
server.on('exit', (code) => {
  if (!ending)
    say(`The server ended${code ? ' with an error; if the port is taken, set PORT to another' : ''}.`);
  void end(code ?? 0);
});
await answers(`http://127.0.0.1:${port}/api/health`);
if (!ending) say(`ready at http://127.0.0.1:${port}   (Ctrl-C stops it)`);

async function answers(address) {
  for (let attempt = 0; attempt < 240 && !ending; attempt += 1) {
    const ok = await fetch(address).then(
      (r) => r.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((done) => setTimeout(done, 250));
  }
}

async function confirmReset() {
  if (!process.stdin.isTTY) giveUp('--reset-demo wipes everything in the database; add --yes to confirm.');
  const ask = createInterface({ input: process.stdin, output: process.stdout });
  const answer = await ask.question(
    'This wipes all rigs, sheets and log entries and loads the demo. Type “wipe” to go on: ',
  );
  ask.close();
  return answer.trim() === 'wipe';
}
