import { setupState } from '@/core/verdict';
import type { BenchSetup } from '@/server/setups/bench';

import type { TaskView } from './nextSteps';

/** Something that can be done with a setup: a place to go to, or something to start. */
export type ActView = { readonly words: string } & (
  | { readonly href: string; readonly start: null }
  | { readonly href: null; readonly start: 'calibration' | 'quick-check' }
);

/**
 * Everything that can be done with a setup, the likeliest first: what waits, then, on a setup that leans, measuring it, on one
 * that is set up now its files, on one that is not, changing over to it.
 */
export function actsOf(r: BenchSetup, tasks: readonly TaskView[], changeOver: boolean): ActView[] {
  const { id } = r.setup;
  const { state } = setupState(r);
  const over: ActView[] = changeOver
    ? [{ words: 'Change over', href: `/setups/${id}/change-over`, start: null }]
    : [];
  const file: ActView = { words: 'Correct a file', href: `/correct?setup=${id}`, start: null };
  const calibrate: ActView[] = r.open.some((s) => s.kind === 'calibration')
    ? []
    : [{ words: 'Calibrate', href: null, start: 'calibration' }];
  // Without a figure of before there is nothing to check.
  const check: ActView[] =
    state !== null || r.unproved ? [{ words: 'Quick check', href: null, start: 'quick-check' }] : [];
  const acts = [
    ...tasks.map((t): ActView =>
      t.href === null
        ? { words: t.act, href: null, start: t.start! }
        : { words: t.act, href: t.href, start: null },
    ),
    ...(state === 'plumb'
      ? [...over, file, ...check, ...calibrate]
      : [...calibrate, ...over, file, ...check]),
  ];
  return acts.filter((a, i) => acts.findIndex((o) => o.words === a.words) === i);
}
