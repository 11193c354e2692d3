import pg from 'pg';

import { accept } from '@/core/outcome';
import { ShopClosed, isClosed, whileClosed } from '@/db/closed';
import { keep } from '@/server/base/act';
import { failureOf } from '@/server/base/failure';
import { addRig } from '@/server/rigs/writeRig';
import { freshDeps } from '@test/database';
import { ROLL_DRAFT } from '@test/setups';

import { checkArchive, restoreShop } from './restoreShop';
import { shopLines } from './shopArchive';

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

test('pictures go out in pieces and come back whole', async () => {
  const large = Buffer.alloc(4_000_003, 1).map((_, i) => (i * 31) % 251);
  const pictures: [string, Buffer][] = [
    ['a', Buffer.from(large)],
    ['b', Buffer.alloc(0)],
    ['c', Buffer.from('plain')],
    ['d', Buffer.alloc(1_500_000, 7)],
  ];
  await client.query('delete from artworks');
  for (const [name, bytes] of pictures)
    await client.query(
      'insert into artworks (sha256, bytes, width_px, height_px, kept_at) values ($1, $2, 1, 1, now())',
      [name, bytes],
    );
  const archive: string[] = [];
  for await (const page of shopLines(client, new Date())) archive.push(page);
  // Nobody holds a picture whole: no line of the archive is longer than a piece.
  expect(Math.max(...archive.map((page) => page.length))).toBeLessThan(2_100_000);
  await restoreShop(client, lines(archive));
  const back = async (): Promise<[string, Buffer][]> => {
    const { rows } = await client.query<{ sha256: string; bytes: Buffer }>(
      'select sha256, bytes from artworks order by sha256',
    );
    return rows.map((r) => [r.sha256, r.bytes]);
  };
  const same = (found: [string, Buffer][]): boolean =>
    found.length === 4 &&
    found.every(([name, bytes], i) => name === pictures[i]![0] && bytes.equals(pictures[i]![1]));
  expect(same(await back())).toBe(true);
});
