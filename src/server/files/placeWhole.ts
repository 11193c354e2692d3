import { randomUUID } from 'node:crypto';
import { link, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { join, parse } from 'node:path';

const codeOf = (error: unknown): string => (error as { code?: string } | null)?.code ?? '';

const UNFINISHED = '.unfinished';
const OURS = /^\.[0-9a-f-]{36}\.unfinished$/;
/** Nothing is written for so long: what is older was left behind when somebody pulled the plug. */
const LEFT_BEHIND_MS = 10 * 60_000;

/** Takes away what was being written into a folder when it was stopped; never anything that is not ours. */
export async function clearUnfinished(folder: string, olderThanMs = LEFT_BEHIND_MS): Promise<void> {
  for (const name of await readdir(folder)) {
    if (!OURS.test(name)) continue;
    const path = join(folder, name);
    const { mtimeMs } = await stat(path);
    if (Date.now() - mtimeMs > olderThanMs) await rm(path, { force: true });
  }
}

/**
 * Puts a file into a folder under its name, whole or not at all: written beside, flushed, then given its name. Another
 * file of that name stays; this one is called “…-2”. One with the same content is taken for the same file.
 *
 * Returns   the name that it has.
 * Throws    what the disk says; nothing is left then.
 */
export async function placeWhole(folder: string, name: string, content: string): Promise<string> {
  const beside = join(folder, `.${randomUUID()}${UNFINISHED}`);
  try {
    const file = await open(beside, 'wx');
    try {
      await file.writeFile(content, 'utf8');
      await file.sync();
    } finally {
      await file.close();
    }
    return await nameFree(folder, name, async (target) => {
      if (await sameContent(target, content)) return true;
      return giveName(beside, target);
    });
  } finally {
    await rm(beside, { force: true });
  }
}

/** Moves a file into another folder; one of its name that is there stays, and this one is called “…-2”. */
export const moveInto = (from: string, folder: string): Promise<string> =>
  nameFree(folder, parse(from).base, async (target) => {
    if (await exists(target)) return false;
    await rename(from, target);
    return true;
  });

/** The first name that works: as given, then with -2, -3 … before its ending. */
async function nameFree(
  folder: string,
  name: string,
  take: (target: string) => Promise<boolean>,
): Promise<string> {
  const { name: base, ext } = parse(name);
  for (let n = 1; ; n += 1) {
    const next = n === 1 ? name : `${base}-${n}${ext}`;
    if (await take(join(folder, next))) return next;
  }
}

/** A second name for what is written already: fails where one is there, which a rename would overwrite. */
async function giveName(from: string, target: string): Promise<boolean> {
  try {
    await link(from, target);
    return true;
  } catch (error) {
    if (codeOf(error) === 'EEXIST') return false;
    // Some disks know no second names.
    if (!['EPERM', 'ENOSYS', 'ENOTSUP', 'EOPNOTSUPP'].includes(codeOf(error))) throw error;
    if (await exists(target)) return false;
    await rename(from, target);
    return true;
  }
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

const sameContent = (path: string, content: string): Promise<boolean> =>
  readFile(path, 'utf8').then(
    (there) => there === content,
    () => false,
  );
