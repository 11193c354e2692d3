import { fork, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';

import { onePerProcess } from '@/process/onePerProcess';
import { TooLarge } from '@/server/base/failure';

import { endsWithServer } from '../endsWithServer';
import { Room } from '../room';
import { DRAWING, type DrawingInput, type DrawingName, type DrawingOutput } from './tasks';

/** Two at once: one slow drawing does not keep the next from being drawn. */
const PROCESSES = 2;
/** Of the work, not of waiting for it. */
const DEADLINE_MS = 1000 * (Number(process.env.RED_PLUMB_DRAWING_SECONDS) || 20);
const LOOK_MS = 50;
const MEGABYTE = 1024 * 1024;
const PAGE_BYTES = 4096;
/** An idle process goes after a while. */
const IDLE_MS = 60_000;

const room = onePerProcess('drawing', () => new Room(PROCESSES, { waiting: 32, waitMs: 45_000 }));

/** What one process may hold: the largest picture that is taken needs 520 MB. */
const MOST_BYTES = 600 * MEGABYTE;

const { idle } = onePerProcess('drawing processes', () => ({ idle: [] as ChildProcess[] }));

function started(file: string): ChildProcess {
  const child = fork(/* turbopackIgnore: true */ file, {
    serialization: 'advanced',
    execArgv: ['--max-old-space-size=256'],
    env: { ...process.env, UV_THREADPOOL_SIZE: '2', MALLOC_ARENA_MAX: '2' },
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
  });
  endsWithServer(child);
  child.on('exit', () => {
    const at = idle.indexOf(child);
    if (at >= 0) idle.splice(at, 1);
  });
  // It keeps no server alive by itself.
  child.unref();
  child.channel?.unref();
  return child;
}

/** Resident bytes of a process; 0 where the system does not tell. */
function residentBytes(pid: number | undefined): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'latin1').split(' ')[1]) * PAGE_BYTES;
  } catch {
    return 0;
  }
}

/**
 * Decodes or draws something from outside in a process of its own, so that whatever a file does to a library ends there.
 * RED_PLUMB_DRAWING names the compiled process; where there is none (tests, scripts) it is done where it is called.
 *
 * Signal   of whoever asked: when they go, it is ended.
 * Throws   TooLarge when the work takes too long or too much memory; waiting does not count. TooBusy when too many wait.
 */
export async function drawing<N extends DrawingName>(
  name: N,
  input: DrawingInput<N>,
  signal?: AbortSignal,
): Promise<DrawingOutput<N>> {
  const file = process.env.RED_PLUMB_DRAWING;
  if (!file) return here(name, input);
  return room.within(1, () => asked(file, name, input, signal), signal);
}

/** The same where it is called. */
const here = <N extends DrawingName>(name: N, input: DrawingInput<N>): Promise<DrawingOutput<N>> =>
  (DRAWING[name] as unknown as (...given: DrawingInput<N>) => Promise<DrawingOutput<N>>)(...input);

function asked<N extends DrawingName>(
  file: string,
  name: N,
  input: DrawingInput<N>,
  signal?: AbortSignal,
): Promise<DrawingOutput<N>> {
  const child = idle.pop() ?? started(file);
  return new Promise((done, failed) => {
    const settle = (act: () => void, alive: boolean): void => {
      clearTimeout(deadline);
      clearInterval(look);
      signal?.removeEventListener('abort', gone);
      child.removeAllListeners('message');
      child.off('exit', ended);
      child.off('error', ended);
      if (alive && child.connected) rest(child);
      else child.kill('SIGKILL');
      act();
    };
    const stop = (why: Error): void => settle(() => failed(why), false);
    const gone = (): void => stop(signal!.reason instanceof Error ? signal!.reason : new Error('cancelled'));
    const ended = (): void =>
      stop(new TooLarge('This cannot be drawn: it ended what draws it. Save it again, or as a picture.'));
    const deadline = setTimeout(
      () =>
        stop(
          new TooLarge(
            `Drawing this takes longer than ${DEADLINE_MS / 1000} seconds. Leave out blurs and soft shadows, or save it as a picture.`,
          ),
        ),
      DEADLINE_MS,
    );
    const look = setInterval(() => {
      if (residentBytes(child.pid) > MOST_BYTES)
        stop(
          new TooLarge(
            `Drawing this takes more than ${Math.round(MOST_BYTES / MEGABYTE)} MB of memory. Make it smaller or simpler.`,
          ),
        );
    }, LOOK_MS);
    child.on('message', (answer: { value: DrawingOutput<N> } | { error: string }) =>
      settle(() => ('error' in answer ? failed(new Error(answer.error)) : done(answer.value)), true),
    );
    child.on('exit', ended);
    child.on('error', ended);
    if (signal?.aborted) return gone();
    signal?.addEventListener('abort', gone);
    child.send({ name, input });
  });
}

/** Back among those that wait for work; gone after a while of it. */
function rest(child: ChildProcess): void {
  idle.push(child);
  const timer = setTimeout(() => {
    const at = idle.indexOf(child);
    if (at < 0) return;
    idle.splice(at, 1);
    child.kill();
  }, IDLE_MS);
  timer.unref();
}
