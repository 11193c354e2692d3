'use client';

import dynamic from 'next/dynamic';

/** A place for cut files; what takes them is loaded after the page can be used. */
export const DropTo = dynamic(() => import('./DropHere'), {
  ssr: false,
  loading: () => <div className="drop no-print">…</div>,
});
