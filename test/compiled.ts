import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join, resolve } from 'node:path';

/** The server's worker and processes, compiled into a folder of their own. */
export function compiled() {
  mkdirSync('.local', { recursive: true });
  const folder = mkdtempSync(join('.local', 'compiled-'));
  execFileSync(process.execPath, [
    '--input-type=module',
    '-e',
    `await (await import('./scripts/lib/build.mjs')).buildWorker(${JSON.stringify(folder)})`,
  ]);
  const fileOf = (name: string): string => resolve(folder, name);
  return {
    fileOf,
    /** Processes that work on one of its files. */
    children: (name: string): number[] =>
      readdirSync('/proc')
        .filter((pid) => /^\d+$/.test(pid))
        .filter((pid) => {
          try {
            return readFileSync(`/proc/${pid}/cmdline`, 'latin1').includes(fileOf(name));
          } catch {
            return false;
          }
        })
        .map(Number),
    remove: (): void => {
      process.emit('red-plumb-ends' as never);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
