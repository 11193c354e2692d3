// How the web server is started, by whoever starts it.
import { spawn } from 'node:child_process';

import { drawingProcess, exportProcess, heavyWorker } from './build.mjs';

/**
 * Large exports are made bit by bit, but a heap that may grow keeps their dust: with these it stays under 300 MB where it
 * went to 500. The old space is also what one heavy task may take (src/server/heavy/pool.ts).
 */
const MEMORY = ['--max-old-space-size=400', '--max-semi-space-size=8'];

/** The server over a build folder, as a child process; `flags` are its own. */
export function serve(
  env,
  dist,
  { flags = [], mode = 'production', stdio = ['ignore', 'ignore', 'inherit'] } = {},
) {
  return spawn(process.execPath, [...(mode === 'production' ? MEMORY : []), 'scripts/serve.mjs', ...flags], {
    env: {
      MALLOC_ARENA_MAX: '2',
      ...env,
      RED_PLUMB_HEAVY: heavyWorker(dist),
      RED_PLUMB_DRAWING: drawingProcess(dist),
      RED_PLUMB_EXPORTS: exportProcess(dist),
      NODE_ENV: mode,
    },
    stdio,
  });
}
