import { createHash } from 'node:crypto';
import { mkdir, readdir, readFile, stat } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';

import { FILE_LIMIT_BYTES, textOf } from '@/core/drawing/file';
import type { Deps } from '@/server/base/deps';
import { setupTitle, sizeTitle } from '@/server/setups/find';
import { getSetup, listSetups } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';

import { correctForSetup } from './dailyFile';
import { clearUnfinished, moveInto, placeWhole } from './placeWhole';
import { reportLines } from './report';

/*
 * A folder that corrects what is put into it. One subfolder a setup, and in it: `in` for files as they were drawn, `out`
 * for corrected ones, `refused` for those that could not be corrected, `done` for originals. Nothing is ever deleted or
 * written over, nothing is there half, and nothing is corrected twice: whatever stops it, it goes on where it was.
 */

const PARTS = ['in', 'out', 'refused', 'done'] as const;
/** Says whose folder it is, whatever it or the setup is called by then. */
const MARKER = '.red-plumb-setup';
/** Written into the log as who did it. */
const ACTOR = 'folder';

const plainName = (words: string): string => words.replace(/[^\p{L}\p{N} ,.()-]+/gu, '-').slice(0, 120);

/** Makes a subfolder for every setup on the bench that has none yet; returns them all, by setup. */
export async function layFolders(deps: Deps, root: string): Promise<ReadonlyMap<string, string>> {
  await mkdir(root, { recursive: true });
  const known = await knownFolders(root);
  const taken = new Set(await readdir(root));
  for (const setup of await listSetups(deps)) {
    let folder = known.get(setup.id);
    if (folder === undefined) {
      folder = join(root, freeFolder(setup, taken));
      taken.add(basename(folder));
      await mkdir(folder, { recursive: true });
      await placeWhole(folder, MARKER, `${setup.id}\n`);
      known.set(setup.id, folder);
    }
    for (const part of PARTS) {
      await mkdir(join(folder, part), { recursive: true });
      await clearUnfinished(join(folder, part));
    }
  }
  return known;
}

/** Rig and medium; where that is taken, the size, then the setup’s number as well. */
function freeFolder(setup: Setup, taken: ReadonlySet<string>): string {
  const name = plainName(setupTitle(setup).replaceAll(' / ', ' - '));
  const names = [name, plainName(`${name} - ${sizeTitle(setup)}`), `${name} - ${setup.id.slice(0, 8)}`];
  return names.find((n) => !taken.has(n)) ?? `${name} - ${setup.id}`;
}

async function knownFolders(root: string): Promise<Map<string, string>> {
  const known = new Map<string, string>();
  for (const entry of await readdir(root, { withFileTypes: true })) {
    if (!entry.isDirectory()) continue;
    const id = await readFile(join(root, entry.name, MARKER), 'utf8').catch(() => null);
    if (id !== null) known.set(id.trim(), join(root, entry.name));
  }
  return known;
}

/** Files that wait to be corrected, oldest name first. */
export async function waitingIn(folder: string): Promise<string[]> {
  const names = await readdir(join(folder, 'in')).catch(() => []);
  return names
    .filter((n) => !n.startsWith('.'))
    .sort()
    .map((n) => join(folder, 'in', n));
}

export type Taken =
  | { readonly kind: 'corrected'; readonly as: string; readonly lines: readonly string[] }
  | { readonly kind: 'refused'; readonly why: string }
  /** Not now: it stays where it is and is tried again. */
  | { readonly kind: 'later'; readonly why: string }
  /** Somebody took it away meanwhile. */
  | { readonly kind: 'gone' };

/** One file of an `in`, which is no longer being written. Throws nothing that a disk or a database can cause. */
export async function takeFile(deps: Deps, path: string): Promise<Taken> {
  try {
    return await correctOne(deps, path);
  } catch (error) {
    const { code, message } = error as { code?: string; message: string };
    if (code === 'ENOENT' && !(await isThere(path))) return { kind: 'gone' };
    if (code === 'ENOSPC') return { kind: 'later', why: 'the disk is full; it stays in “in”' };
    return { kind: 'later', why: `${message.split('\n')[0]}; it stays in “in”` };
  }
}

const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

async function correctOne(deps: Deps, path: string): Promise<Taken> {
  const folder = dirname(dirname(path));
  const setupId = (await readFile(join(folder, MARKER), 'utf8')).trim();
  const { size, mtimeMs, ino } = await stat(path);
  if (size > FILE_LIMIT_BYTES)
    return refuseFile(
      folder,
      path,
      `It has more than ${FILE_LIMIT_BYTES / 1048576} MB. Split it into parts.`,
    );
  const text = textOf(await readFile(path));
  const done = await correctForSetup(deps, ACTOR, {
    setupId,
    fileName: basename(path),
    text,
    to: null,
    own: false,
    again: false,
    cameBy: 'folder',
    // The same file has the same number however often it is looked at; put in anew it is another.
    request: numberOf([setupId, basename(path), String(mtimeMs), String(ino), text]),
  });
  if (!done.ok)
    return done.refusal.code === 'not-kept'
      ? { kind: 'later', why: done.refusal.message }
      : refuseFile(folder, path, done.refusal.message);
  const setup = await getSetup(deps, setupId);
  const as = await placeWhole(join(folder, 'out'), done.value.fileName, done.value.content);
  const lines = reportLines(done.value, setup ? setupTitle(setup) : setupId);
  await placeWhole(join(folder, 'out'), `${as}.txt`, `${lines.join('\n')}\n`);
  await moveInto(path, join(folder, 'done'));
  return { kind: 'corrected', as, lines };
}

async function refuseFile(folder: string, path: string, why: string): Promise<Taken> {
  const as = await moveInto(path, join(folder, 'refused'));
  await placeWhole(join(folder, 'refused'), `${as}.txt`, `${basename(path)} was not corrected.\n${why}\n`);
  return { kind: 'refused', why };
}

/** A request number that follows from what it is for (RFC 9562, version 8). */
function numberOf(parts: readonly string[]): string {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(String(part.length)).update(':').update(part);
  const hex = hash.digest('hex').slice(0, 32).split('');
  hex[12] = '8';
  hex[16] = '89ab'[parseInt(hex[16]!, 16) % 4]!;
  const h = hex.join('');
  return `${h.slice(0, 8)}-${h.slice(8, 12)}-${h.slice(12, 16)}-${h.slice(16, 20)}-${h.slice(20)}`;
}
