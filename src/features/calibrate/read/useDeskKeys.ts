import { useEffect, useRef } from 'react';

import { meaningOf, type KeyMeaning } from './deskState';

/** Keys of the reading desk, wherever the focus is, but in fields, on other buttons and in what lies over the page. */
export function useDeskKeys(
  ready: boolean,
  typing: boolean,
  does: (kind: KeyMeaning, more: { readonly by?: 1 | -1; readonly key: string }) => void,
): void {
  const keys = useRef<(event: KeyboardEvent) => void>(() => undefined);
  useEffect(() => {
    keys.current = (event) => {
      const target = event.target as HTMLElement;
      if (!ready || event.ctrlKey || event.metaKey || event.altKey) return;
      if (/^(input|textarea|select|summary)$/i.test(target.tagName)) return;
      if (target.closest('.offcanvas, .modal')) return;
      const meaning = meaningOf(event.key, typing);
      // Enter on a focused button is that button's own.
      if (!meaning || (event.key === 'Enter' && target.closest('button, a'))) return;
      event.preventDefault();
      does(meaning.kind, { ...(meaning.by ? { by: meaning.by } : {}), key: event.key });
    };
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => keys.current(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
