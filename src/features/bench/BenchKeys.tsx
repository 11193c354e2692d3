'use client';

import { useEffect } from 'react';

/** “/” goes to the search; what was found is at hand: its first act has the focus. */
export function BenchKeys({ find }: { find: string }) {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const at = event.target;
      const typing = at instanceof HTMLElement && /^(input|textarea|select)$/i.test(at.tagName);
      if (event.key !== '/' || typing || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      document.querySelector<HTMLInputElement>('input[name=find]')?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  useEffect(() => {
    if (find !== '') document.querySelector<HTMLElement>('.setup-row .acts .btn')?.focus();
  }, [find]);
  return null;
}
