import { expose } from 'comlink';

import { nestings, takesLess, type NestedSheets, type NestJob } from '@/core/layout/nest';
import { seededRandom } from '@/core/random/random';

/* A thin shell: nests off the page's own thread, and tells of every nesting that is better than the one before. */

const api = {
  nest(job: NestJob, seconds: number, onBetter: (sheets: NestedSheets, ways: number) => void): void {
    const until = performance.now() + 1000 * seconds;
    let best: NestedSheets = [];
    let ways = 0;
    for (const found of nestings(job, seededRandom(1))) {
      ways += 1;
      if (takesLess(found, best)) {
        best = found;
        onBetter(best, ways);
      }
      if (performance.now() > until) return;
    }
  },
};

export type NestWorker = typeof api;

expose(api);
