import assert from 'node:assert/strict';
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { test } from 'node:test';

import { endOrphan, noteServer } from './orphan.mjs';
import { pause } from './processes.mjs';
import { wordsOf } from './say.mjs';

mkdirSync('.local', { recursive: true });
const sleeper = () => spawn(process.execPath, ['-e', 'setInterval(() => {}, 1000)'], { stdio: 'ignore' });
const ended = async (child) => {
  const gone = new Promise((done) => child.once('exit', done));
  child.kill('SIGKILL');
  await gone;
};

test('a web server that nobody looks after is ended; one that somebody does, or another process, is left alone', async () => {
  const [server, starter] = [sleeper(), sleeper()];
  await pause(100);
  noteServer(server.pid, 1, starter.pid);
  assert.equal(await endOrphan(1), false);
  assert.equal(server.exitCode, null);
  await ended(starter);
  const gone = new Promise((done) => server.once('exit', done));
  assert.equal(await endOrphan(1), true);
  await gone;
  // Ended already, or never noted.
  assert.equal(await endOrphan(1), false);
  assert.equal(await endOrphan(2), false);
});

for (const [code, words] of [
  ['EACCES', /\/shop\/\.local may not be written by this user/],
  ['ENOSPC', /disk of \/shop\/\.local is full.*nothing was lost/],
  ['EROFS', /cannot be written/],
])
  test(`${code} is said in words`, () => {
    assert.match(wordsOf(Object.assign(new Error(code), { code, path: '/shop/.local' })), words);
  });
