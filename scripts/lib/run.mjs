import { spawn, spawnSync } from 'node:child_process';

export const isRoot = process.getuid?.() === 0;

/** Runs a command to its end; returns what it printed. Never throws: look at `ok`. */
export function capture(command, args, options = {}) {
  const done = spawnSync(command, args, { encoding: 'utf8', ...options });
  return {
    ok: done.status === 0,
    status: done.status,
    text: `${done.stdout ?? ''}${done.stderr ?? ''}${done.error ? String(done.error) : ''}`,
  };
}

/** Runs a command and lets it print; resolves with its exit code. */
export function run(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { stdio: 'inherit', ...options });
    child.on('error', () => resolve(127));
    child.on('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)));
  });
}

/** A program of this project's own node_modules. */
export const tool = (path) => [process.execPath, `node_modules/${path}`];
