import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { delimiter, join } from 'node:path';

import { capture, isRoot, run } from './run.mjs';
import { giveUp, say } from './say.mjs';

/** Where PostgreSQL's server programs are; Debian keeps them out of the PATH. */
export function postgresBin() {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root) ? readdirSync(root).sort((a, b) => Number(b) - Number(a)) : [];
  const folders = [
    ...versions.map((v) => join(root, v, 'bin')),
    ...(process.env.PATH ?? '').split(delimiter),
  ];
  return folders.find((folder) => existsSync(join(folder, 'initdb'))) ?? null;
}

export const chromiumPath = () =>
  ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((path) => existsSync(path)) ?? null;

const which = (name) => () => (capture('which', [name]).ok ? name : null);

/** How each Debian package is known to be there. The last two read cut files in the tests, beside our own readers. */
const FOUND = {
  postgresql: postgresBin,
  chromium: chromiumPath,
  hp2xx: which('hp2xx'),
  'python3-ezdxf': () => (capture('/usr/bin/python3', ['-c', 'import ezdxf']).ok ? 'ezdxf' : null),
};

/** Installs what is missing from Debian's packages, when it may. */
export async function ensureDebian(names) {
  const missing = names.filter((name) => FOUND[name]() === null);
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (!isRoot || !capture('which', ['apt-get']).ok)
    giveUp(
      `${missing.join(' and ')} ${missing.length > 1 ? 'are' : 'is'} not installed, and this user may not install packages.\nAsk an administrator to run “${command}”, then start again.${missing.includes('postgresql') ? ' Or set DATABASE_URL to a PostgreSQL database of your own.' : ''}`,
    );
  say(`installing ${missing.join(' and ')} from Debian’s packages …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  capture('apt-get', ['update', '-qq'], { env });
  const done = capture('apt-get', ['install', '-y', '--no-install-recommends', ...missing], { env });
  if (missing.some((name) => FOUND[name]() === null))
    giveUp(`“${command}” did not work:\n${done.text.split('\n').slice(-12).join('\n')}`);
}

/** Runs `npm ci` when node_modules does not belong to this lock file. */
export async function ensureModules() {
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  const stamp = 'node_modules/.red-plumb-lock';
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  say('installing the JavaScript packages (npm ci) …');
  const code = await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
  if (code !== 0) giveUp('“npm ci” did not work; its own message is above.');
  mkdirSync('node_modules', { recursive: true });
  writeFileSync(stamp, lock);
}

export function checkNode() {
  const major = Number(process.versions.node.split('.')[0]);
  if (major < 20) giveUp(`Node.js ${process.versions.node} is too old; version 20.9 or newer is needed.`);
}
