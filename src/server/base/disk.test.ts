import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

import { diskFullWords, diskRoom } from './disk';
import { failureOf } from './failure';

const full = { freeMb: 3, neededMb: 40, full: true };
let room: typeof full | null = null;
jest.mock('./disk', () => {
  const real = jest.requireActual<typeof import('./disk')>('./disk');
  return { ...real, diskFullWords: (given = room) => real.diskFullWords(given) };
});
afterEach(() => (room = null));

test('says how much is needed and how much there is, and nothing while there is room', () => {
  expect(diskFullWords(full)).toMatch(/^the disk is full: 40 MB are needed, 3 MB are free\. Nothing/);
  expect(diskFullWords({ ...full, freeMb: 41, full: false })).toBeNull();
  expect(diskFullWords(null)).toBeNull();
});

test('a disk without room is full, one with room is not', () => {
  // What the kernel tells about itself is a file system without a free block (proc(5) of the Linux manual).
  expect(diskRoom('/proc')).toEqual({ freeMb: 0, neededMb: 40, full: true });
  expect(diskRoom(tmpdir())).toMatchObject({ full: false });
});

test('looks at the disk of a folder; of one that is not there it knows nothing', () => {
  const folder = mkdtempSync(join(tmpdir(), 'disk-'));
  const found = diskRoom(folder);
  expect(found?.freeMb).toBeGreaterThan(0);
  rmSync(folder, { recursive: true });
  expect(diskRoom(folder)).toBeNull();
  expect(diskRoom(undefined)).toBeNull();
});

test.each([
  ['a database that cannot extend a file', Object.assign(new Error('no space'), { code: '53100' })],
  ['a database that is gone', Object.assign(new Error('refused'), { code: 'ECONNREFUSED' })],
])('%s on a full disk is told as a full disk', (_, error) => {
  room = full;
  const failure = failureOf(error, 'no-1');
  expect(failure).toMatchObject({ kind: 'away', status: 503 });
  expect(failure.message).toMatch(/^Nothing was saved: the disk is full: 40 MB are needed/);
  // Once there is room it is what it was.
  room = null;
  expect(failureOf(error, 'no-1').message).not.toMatch(/40 MB/);
});
