'use client';

import { useEffect, useState } from 'react';

type State<T> = { readonly part: T } | { readonly error: unknown } | null;

/**
 * A part of the page's code that is fetched once the page can be seen: null until it is here. `load` must be the same
 * function each time. One that cannot be fetched is thrown to the error page.
 */
export function useLater<T>(load: () => Promise<T>): T | null {
  const [state, setState] = useState<State<T>>(null);
  useEffect(() => {
    let wanted = true;
    load().then(
      (part) => wanted && setState({ part }),
      (error: unknown) => wanted && setState({ error }),
    );
    return () => {
      wanted = false;
    };
  }, [load]);
  if (state && 'error' in state) throw state.error;
  return state?.part ?? null;
}
