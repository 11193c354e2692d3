import { expose } from 'comlink';

import { planWithCurves } from '@/core/layout';

/** A thin shell: plans off the page's own thread, so that dragging stays smooth. */
const api = { plan: planWithCurves };

export type PlanWorker = typeof api;

expose(api);
