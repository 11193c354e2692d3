import { availableParallelism } from 'node:os';

import { Piscina } from 'piscina';

import { DEADLINE_MS } from '@/core/drawing/limits';
import { onePerProcess } from '@/process/onePerProcess';

import { TooLarge } from '../base/failure';
import { log } from '../base/log';

import { Room } from './room';
import { TASKS, type TaskInput, type TaskName, type TaskOutput } from './tasks';

const MEMORY_MB = 400;

/** Two at least: a short task does not wait for a long one. */
const THREADS = Math.max(2, Math.min(4, availableParallelism() - 1));
const room = onePerProcess('threads', () => new Room(THREADS, { waiting: 24, waitMs: 60_000 }));

/** RED_PLUMB_HEAVY names the compiled worker; where there is none (tests, scripts) a task runs where it is called. */
function threads(): Piscina | null {
  const filename = process.env.RED_PLUMB_HEAVY;
  return filename ? onePerProcess('heavy work', () => made(filename)) : null;
}

function made(filename: string): Piscina {
  const pool = new Piscina({
    filename,
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: 60_000,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY_MB },
  });
  // A thread that dies takes its task with it, not the server.
  pool.on('error', (error) => log.error({ err: error as Error }, 'heavy work'));
  return pool;
}

/**
 * Does something heavy on a thread of its own, so that the others are answered meanwhile.
 * Throws   TooLarge when the work takes too long or too much memory; waiting for a thread does not count. TooBusy when too
 *          many wait already, or none was free for a minute.
 */
export async function heavy<N extends TaskName>(name: N, input: TaskInput<N>): Promise<TaskOutput<N>> {
  const run = threads();
  if (!run) return TASKS[name](input as never) as TaskOutput<N>;
  return room.within(1, async () => {
    const deadline = AbortSignal.timeout(DEADLINE_MS);
    try {
      return (await run.run({ name, input }, { signal: deadline })) as TaskOutput<N>;
    } catch (error) {
      if (deadline.aborted)
        throw new TooLarge(
          `This would take longer than ${DEADLINE_MS / 1000} seconds. Ask for less at once: split the file or the request.`,
        );
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new TooLarge(`This needs more than ${MEMORY_MB} MB of memory. Split the file or the request.`);
      throw error;
    }
  });
}
