import { existsSync, mkdirSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const MARKER = 'being-made';

/** Written first and taken away last: only a folder with this in it was never a log. */
export const markBeingMade = (folder) => {
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, MARKER), 'Red Plumb is making a database here; nothing is in it yet.\n');
};
export const markMade = (folder) => rmSync(join(folder, MARKER));

/** Says how a path is: 'there', 'absent', or the code of what keeps it from being seen. */
function look(path) {
  try {
    statSync(path);
    return 'there';
  } catch (error) {
    return error.code === 'ENOENT' || error.code === 'ENOTDIR' ? 'absent' : error.code;
  }
}

/**
 * What a cluster's folder holds: `{state: 'none'}` (absent or empty), `'unfinished'` (our own, never started),
 * `'ready'`, or `'unclear'` with words that say what was found. It deletes nothing.
 */
export function inspectCluster(folder) {
  const unclear = (words) => ({
    state: 'unclear',
    words: `${words}\nNothing was changed. Put back what is missing, or restore a backup (npm run restore); for a new, empty shop move ${folder} away yourself.`,
  });
  const outer = look(folder);
  if (outer === 'absent') return { state: 'none' };
  if (outer !== 'there') return unclear(`The folder ${folder} cannot be seen (${outer}).`);
  let names;
  try {
    names = readdirSync(folder);
  } catch (error) {
    return unclear(`The folder ${folder} cannot be read by this user (${error.code}).`);
  }
  if (names.length === 0) return { state: 'none' };
  const data = join(folder, 'data');
  const control = look(join(data, 'global', 'pg_control'));
  if (names.includes(MARKER))
    return existsSync(join(data, 'postmaster.opts'))
      ? unclear(
          `The folder ${folder} is marked as unfinished, yet a database server has run in it: it may hold a log.`,
        )
      : { state: 'unfinished' };
  if (control === 'there')
    return names.includes('password')
      ? { state: 'ready' }
      : unclear(
          `The folder ${folder} holds a database, but its file “password” is missing, so nobody can get in.`,
        );
  if (control === 'absent')
    return unclear(
      `The folder ${folder} is not empty (${names.slice(0, 6).join(', ')}), but its database has no data/global/pg_control: it was moved away, or copied in part.`,
    );
  return unclear(`The database in ${folder} cannot be seen by this user (${control}).`);
}
