import assert from 'node:assert/strict';
import { spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { after, test } from 'node:test';
import { fileURLToPath } from 'node:url';

import { inspectCluster } from './clusterFolder.mjs';
import { markLives, pause, postgresIn, processMark } from './processes.mjs';
import { alone, users } from './userLock.mjs';

const here = dirname(fileURLToPath(import.meta.url));
const scratch = mkdtempSync(join(tmpdir(), 'red-plumb-'));
after(() => rmSync(scratch, { recursive: true, force: true }));

/** A folder with these files in it. */
function folderOf(name, files) {
  const folder = join(scratch, name);
  mkdirSync(folder);
  for (const file of files) {
    mkdirSync(dirname(join(folder, file)), { recursive: true });
    writeFileSync(join(folder, file), 'x');
  }
  return folder;
}

const CONTROL = 'data/global/pg_control';
for (const [name, files, state, words] of [
  ['empty', [], 'none'],
  ['a cluster', ['password', CONTROL], 'ready'],
  ['one that was being made', ['being-made', 'password', 'data/PG_VERSION'], 'unfinished'],
  [
    'marked as being made, yet a server ran',
    ['being-made', 'data/postmaster.opts', CONTROL],
    'unclear',
    /may hold a log/,
  ],
  [
    'its control file moved away',
    ['password', 'data/PG_VERSION', 'data/base/1/2'],
    'unclear',
    /moved away, or copied/,
  ],
  ['its password gone', [CONTROL], 'unclear', /password/],
  ['somebody’s photographs', ['a.jpg'], 'unclear', /not empty/],
])
  test(`a folder: ${name}`, () => {
    const folder = folderOf(name, files);
    const found = inspectCluster(folder);
    assert.equal(found.state, state);
    if (words) assert.match(found.words, words);
    if (words) assert.match(found.words, /Nothing was changed/);
    for (const file of files) assert.ok(existsSync(join(folder, file)));
  });

test('a folder that is not there can be made', () => {
  assert.equal(inspectCluster(join(scratch, 'nowhere')).state, 'none');
});

test('two at once: one after the other; a holder that was killed holds nothing', async () => {
  const lock = join(scratch, 'lock');
  const steps = [];
  const work = (name) =>
    alone(lock, async () => {
      steps.push(`${name} in`);
      await pause(50);
      steps.push(`${name} out`);
    });
  await Promise.all([work('a'), work('b'), work('c')]);
  for (let i = 0; i < 6; i += 2) assert.equal(steps[i].replace('in', 'out'), steps[i + 1]);
  mkdirSync(lock);
  writeFileSync(join(lock, 'holder'), '999999999 1');
  await work('d');
  assert.equal(existsSync(lock), false);
});

test('the last one out: others are counted while they live, whoever has their number later', () => {
  const folder = join(scratch, 'users');
  const using = users(folder);
  using.join();
  assert.equal(using.others(), false);
  writeFileSync(join(folder, String(process.ppid)), processMark(process.ppid));
  assert.equal(using.others(), true);
  // The same number, started at another time: another process.
  writeFileSync(join(folder, String(process.ppid)), `${process.ppid} 1`);
  assert.equal(using.others(), false);
  assert.deepEqual(readdirSync(folder), [String(process.pid)]);
  using.leave();
  assert.equal(markLives(processMark(process.pid)), true);
});

/** Starts a cluster in a project folder of its own, in a process of its own; prints where it is. */
function start(project, more = '') {
  const program = `
    import { startCluster } from ${JSON.stringify(join(here, 'cluster.mjs'))};
    const cluster = await startCluster('postgres-try', 'red_plumb_try', { durable: false });
    console.log('AT ' + cluster.url);
    ${more}
    await cluster.stop();
    process.exit(0);`;
  return spawnSync(process.execPath, ['--input-type=module', '-e', program], {
    cwd: project,
    encoding: 'utf8',
  });
}

/** Where the cluster of a project came to lie: in it, or where its owner can reach it. */
function dataOf(output, project) {
  const told = /cluster in (\S+)/.exec(output)?.[1] ?? join(project, '.local', 'postgres-try');
  return join(told, 'data');
}

test('a cluster is made once, survives a pid file of somebody else’s process, and is never made over a log', async () => {
  const project = join(scratch, 'project');
  mkdirSync(project);
  const first = start(project);
  assert.match(first.stdout, /AT postgresql:/, first.stderr);
  const data = dataOf(first.stdout, project);
  try {
    assert.deepEqual(postgresIn(data), []);
    // A pid file of a live process that is no database of ours.
    writeFileSync(join(data, 'postmaster.pid'), `${process.pid}\n${data}\n1\n54999\n\n127.0.0.1\n0\nready\n`);
    const second = start(project);
    assert.match(second.stdout, /AT postgresql:/, second.stderr);
    assert.doesNotMatch(second.stdout, /making a private/);
    // The control file out of sight: told, and nothing touched.
    renameSync(join(data, 'global/pg_control'), join(data, 'pg_control.away'));
    const names = readdirSync(data).sort();
    const third = start(project);
    assert.equal(third.status, 1);
    assert.match(third.stderr, /pg_control/);
    assert.match(third.stderr, /Nothing was changed/);
    assert.deepEqual(readdirSync(data).sort(), names);
    renameSync(join(data, 'pg_control.away'), join(data, 'global/pg_control'));
    // Killed with everything it had: the next start waits for what is left of it and goes on.
    const killed = start(
      project,
      `
      const { postgresIn } = await import(${JSON.stringify(join(here, 'processes.mjs'))});
      for (const pid of postgresIn(${JSON.stringify(data)}).slice(0, 1)) process.kill(pid, 'SIGKILL');
      process.exit(0);`,
    );
    assert.equal(killed.status, 0, killed.stderr);
    const fourth = start(project);
    assert.match(fourth.stdout, /AT postgresql:/, fourth.stderr);
    assert.ok(readFileSync(join(data, 'PG_VERSION'), 'utf8').length > 0);
  } finally {
    rmSync(dirname(data), { recursive: true, force: true });
  }
});

test('a normal user starts a cluster of his own; root starts it as somebody who may', (t) => {
  const folder = mkdtempSync(join('/var/tmp', 'red-plumb-user-'));
  try {
    const asNobody = process.getuid() === 0 ? ['runuser', '-u', 'nobody', '--'] : [];
    if (asNobody.length > 0) {
      const readable = spawnSync('runuser', ['-u', 'nobody', '--', 'test', '-r', join(here, 'cluster.mjs')]);
      if (readable.status !== 0) return t.skip('this checkout is hidden from other users');
      spawnSync('chown', ['nobody', folder]);
    }
    const started = `
      process.chdir(${JSON.stringify(folder)});
      (await import('node:fs')).mkdirSync('.local', { recursive: true });
      const { startCluster } = await import(${JSON.stringify(join(here, 'cluster.mjs'))});
      const cluster = await startCluster('postgres-user', 'of_a_user', { durable: false });
      const again = await startCluster('postgres-user', 'of_a_user', { durable: false });
      console.log(process.getuid() !== 0, cluster.pid() > 1, again.url === cluster.url);
      await again.stop();
      await cluster.stop();
      console.log(cluster.lives());`;
    const [command, ...args] = [...asNobody, process.execPath, '--input-type=module', '-e', started];
    const done = spawnSync(command, args, { encoding: 'utf8', env: { ...process.env, HOME: folder } });
    assert.match(
      done.stdout,
      process.getuid() === 0 ? /^true true true\nfalse$/m : /true true\nfalse$/m,
      done.stderr,
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
