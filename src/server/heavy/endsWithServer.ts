import type { ChildProcess } from 'node:child_process';

import { onePerProcess } from '@/process/onePerProcess';

/** Processes that this one has started, ended with it. */
const started = onePerProcess('own processes', () => {
  const all = new Set<ChildProcess>();
  // `serve.mjs` says so before it ends at once.
  for (const event of ['exit', 'red-plumb-ends'])
    process.on(event, () => all.forEach((child) => child.kill('SIGKILL')));
  return all;
});

/** Sees to it that a process does not outlive this one. */
export function endsWithServer(child: ChildProcess): void {
  started.add(child);
  child.on('exit', () => started.delete(child));
}
