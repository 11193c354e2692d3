import { readFileSync, readdirSync, readlinkSync, realpathSync } from 'node:fs';

/** Name, state and start time of a process, or null when there is none. A zombie counts as none. */
function statOf(pid) {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const end = stat.lastIndexOf(')');
    const rest = stat.slice(end + 2).split(' ');
    if (rest[0] === 'Z' || rest[0] === 'X') return null;
    return { name: stat.slice(stat.indexOf('(') + 1, end), startedAt: rest[19] };
  } catch {
    return null;
  }
}

/** A mark that no later process with the same number has. Null when the process is gone. */
export function processMark(pid) {
  const found = statOf(pid);
  return found && `${pid} ${found.startedAt}`;
}

export const markLives = (mark) => processMark(Number(mark.split(' ')[0])) === mark;

/** Every live PostgreSQL process that works on this data folder: the server and its backends stand in it. */
export function postgresIn(data) {
  let folder;
  try {
    folder = realpathSync(data);
  } catch {
    return [];
  }
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      if (statOf(pid)?.name !== 'postgres') return false;
      try {
        return readlinkSync(`/proc/${pid}/cwd`) === folder;
      } catch {
        return false; // somebody else's process: ours run as this user, or this user may look at all
      }
    });
}

export const pause = (ms) => new Promise((done) => setTimeout(done, ms));
