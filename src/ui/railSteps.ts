'use client';

import { useLayoutEffect, useSyncExternalStore } from 'react';

/* Steps that the work on the screen leaves out: the rail stands outside of the page, and is told here. */

const NONE: readonly string[] = [];
let leftOut = NONE;
const listeners = new Set<() => void>();

function say(steps: readonly string[]): void {
  leftOut = steps;
  for (const listener of listeners) listener();
}

const listen = (listener: () => void): (() => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** What the rail leaves out now. */
export const useLeftOut = (): readonly string[] =>
  useSyncExternalStore(
    listen,
    () => leftOut,
    () => NONE,
  );

/** Says while it is shown which steps this work does not have, by their names in addresses. */
export function LeaveOut({ step }: { readonly step: string }): null {
  useLayoutEffect(() => {
    say([step]);
    return () => say(NONE);
  }, [step]);
  return null;
}
