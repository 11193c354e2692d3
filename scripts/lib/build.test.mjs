import assert from 'node:assert/strict';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { after, test } from 'node:test';
import { Worker } from 'node:worker_threads';

import { buildWorker, drawingProcess, heavyWorker } from './build.mjs';

// Beside the packages, as a build is: those that read files of their own stay out of what is compiled.
mkdirSync('.local', { recursive: true });
const folder = mkdtempSync(join('.local', 'worker-'));
after(() => rmSync(folder, { recursive: true, force: true }));

/** Runs a task in a thread of its own from the compiled file, as the server’s pool does. */
const inThread = (file, name, input) =>
  new Promise((done, failed) => {
    const thread = new Worker(
      `const { parentPort, workerData: w } = require('node:worker_threads');
       import(w.file).then((m) => m.default({ name: w.name, input: w.input })).then((a) => parentPort.postMessage(a));`,
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

test('a page is printed in a thread, and drawn again in a process', async () => {
  await buildWorker(folder);
  const [segment, start] = [
    { kind: 'lines', xy: [15, 5, 15, 15, 5, 15] },
    { x: 5, y: 5 },
  ];
  const paint = { ink: 'text', fill: true, widthMm: 0 };
  const square = { start, segments: [segment], closed: true, layer: 'text', colour: null, pen: null, paint };
  const page = { title: 'a square', page: { widthMm: 20, heightMm: 30 }, paths: [square], words: [] };
  const bytes = await inThread(heavyWorker(folder), 'printPages', [{ drawing: page, pictures: [] }]);
  const child = fork(drawingProcess(folder), { serialization: 'advanced' });
  const asked = async (name, ...input) => {
    child.send({ name, input });
    const [{ value }] = await once(child, 'message');
    return value;
  };
  const png = await asked('asPicture', bytes);
  const drawn = await asked('decodePicture', png.value);
  const { width, height, rgba } = drawn.value;
  assert.deepEqual([width, height], [472, 709]);
  // Its middle is 10 mm from the near edge: opaque there, clear in the corner.
  const opacity = (x, y) => rgba[4 * (y * width + x) + 3];
  assert.deepEqual([opacity(236, 472), opacity(3, 3)], [255, 0]);
  child.disconnect();
  await once(child, 'exit');
});
