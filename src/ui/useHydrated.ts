'use client';

import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => undefined;

/** False until the page's own code runs: a form that opens its fields then loses nothing typed too early. */
export const useHydrated = (): boolean =>
  useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
