import pg from 'pg';

import { accept } from '@/core/outcome';
import { ShopClosed, isClosed, whileClosed } from '@/db/closed';
import { keep } from '@/server/base/act';
import { failureOf } from '@/server/base/failure';
import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';
import { ROLL_DRAFT } from '@test/setups';

import { checkArchive, restoreShop, shopLines } from './shopArchive';

/* A restore while people save: what was acknowledged before the shop closed is in the copy, the rest is refused in words. */

let deps: Awaited<ReturnType<typeof freshDeps>>;
let client: pg.Client;
beforeAll(async () => {
  deps = await freshDeps('closed');
  client = new pg.Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  const rig = await addRig(deps, 'KT', ROLL_DRAFT);
  expect(rig.ok).toBe(true);
});
afterAll(async () => {
  await client.end();
  await deps.close();
});

test('twenty who write while the shop is copied and another put in its place: nothing acknowledged is in neither', async () => {
  const archive: string[] = [];
  for await (const line of shopLines(client, new Date())) archive.push(line);
  let going = true;
  const acknowledged: string[] = [];
  const refused: string[] = [];
  const writer = async (): Promise<void> => {
    while (going) {
      const request = crypto.randomUUID();
      try {
        const done = await keep(deps, 'KT', { act: 'write', request }, () =>
          Promise.resolve(accept({ kept: true })),
        );
        if (done.ok) acknowledged.push(request);
      } catch (error) {
        const { status, message } = failureOf(error, 'x');
        // At once and in words, or its table went from under it before it was answered.
        refused.push(error instanceof ShopClosed ? `${status} ${message}` : 'unanswered');
        await new Promise((done) => setTimeout(done, 5));
      }
    }
  };
  const writers = Promise.all(Array.from({ length: 20 }, writer));
  await new Promise((done) => setTimeout(done, 400));
  const copy: string[] = [];
  let shut = false;
  await whileClosed(client, async () => {
    shut = await isClosed(deps.db);
    for await (const line of shopLines(client, new Date())) copy.push(line);
    await new Promise((done) => setTimeout(done, 200));
    await restoreShop(client, lines(archive));
  });
  await new Promise((done) => setTimeout(done, 300));
  going = false;
  await writers;
  expect([shut, await isClosed(deps.db)]).toEqual([true, false]);
  const copied = copy.join('');
  const { rows } = await client.query<{ request: string }>(`select request from acts where act = 'write'`);
  const there = new Set(rows.map((r) => r.request));
  const lost = acknowledged.filter((request) => !copied.includes(request) && !there.has(request));
  expect(lost).toEqual([]);
  expect(acknowledged.filter((request) => copied.includes(request)).length).toBeGreaterThan(20);
  expect(there.size).toBeGreaterThan(20);
  expect(
    refused.filter((words) => words.startsWith('503 Nothing was saved: the shop is being restored')).length,
  ).toBeGreaterThan(20);
});

async function* lines(pages: readonly string[]): AsyncGenerator<string> {
  for (const page of pages) for (const line of page.split('\n')) if (line !== '') yield line;
}

test('an archive is looked at whole before anything is closed or copied', async () => {
  const archive: string[] = [];
  for await (const line of shopLines(client, new Date())) archive.push(line);
  await checkArchive(lines(archive));
  const all = archive.join('').split('\n').filter(Boolean);
  const spoilt: [string, string[], RegExp][] = [
    ['cut off', all.slice(0, -1), /stops in the middle/],
    ['a row more', [...all.slice(0, 2), all[2]!, ...all.slice(2)], /checksum/],
    ['something behind its end', [...all, '{}'], /after the end/],
    [
      'of a newer program',
      [all[0]!.replace(/"migrations":\d+/, '"migrations":999'), ...all.slice(1)],
      /newer Red Plumb/,
    ],
    ['no archive', ['{"hello":1}'], /not an archive/],
  ];
  for (const [, text, words] of spoilt) await expect(checkArchive(lines(text))).rejects.toThrow(words);
});
