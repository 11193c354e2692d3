import assert from 'node:assert/strict';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { after, test } from 'node:test';
import { Worker } from 'node:worker_threads';

import { buildWorker, heavyWorker } from './build.mjs';

const folder = mkdtempSync(join(tmpdir(), 'red-plumb-worker-'));
after(() => rmSync(folder, { recursive: true, force: true }));

/** Runs a task in a thread of its own from the compiled file, as the server’s pool does. */
const inThread = (file, name, input) =>
  new Promise((done, failed) => {
    const thread = new Worker(
      `const { parentPort, workerData: w } = require('node:worker_threads');
       import(w.file).then((m) => parentPort.postMessage(m.default({ name: w.name, input: w.input })));`,
      { eval: true, workerData: { file, name, input } },
    );
    thread.on('message', done);
    thread.on('error', failed);
    thread.on('exit', () => failed(new Error('the thread ended without an answer')));
  });

test('the compiled worker loads in a thread and does what it is asked', async () => {
  await buildWorker(folder);
  const file = heavyWorker(folder);
  const square =
    '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm" viewBox="0 0 10 10"><path d="M1 1H9V9Z"/></svg>';
  assert.deepEqual(await inThread(file, 'checkCutFile', square), { ok: true, value: null });
  assert.equal((await inThread(file, 'checkCutFile', 'no drawing')).ok, false);
});
