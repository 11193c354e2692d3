'use client';

import { useCallback, useSyncExternalStore } from 'react';

/*
 * What this tab remembers until it is closed: ticks of a card, steps that can be undone. Reloading, or going to another
 * page and back, loses none of it.
 */

const cache = new Map<string, { readonly text: string | null; readonly value: unknown }>();
const listeners = new Set<() => void>();

const subscribe = (heard: () => void): (() => void) => {
  listeners.add(heard);
  return () => listeners.delete(heard);
};

function read<T>(key: string, initial: T): T {
  const text = sessionStorage.getItem(key);
  const kept = cache.get(key);
  if (kept?.text === text) return kept.value as T;
  let value: unknown = initial;
  try {
    if (text !== null) value = JSON.parse(text);
  } catch {
    // Somebody else's words under this name: as if there were none.
  }
  cache.set(key, { text, value });
  return value as T;
}

/** As `useState`, kept under a name by this tab. `initial` has to be the same object each time. */
export function useSessionState<T>(name: string, initial: T): readonly [T, (value: T) => void] {
  const key = `red-plumb-${name}`;
  const value = useSyncExternalStore(
    subscribe,
    () => read(key, initial),
    () => initial,
  );
  const set = useCallback(
    (next: T): void => {
      sessionStorage.setItem(key, JSON.stringify(next));
      for (const heard of listeners) heard();
    },
    [key],
  );
  return [value, set];
}
