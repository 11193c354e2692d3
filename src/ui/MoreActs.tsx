'use client';

import { useEffect, useRef, type ReactNode } from 'react';

/** Acts that are seldom wanted, behind one button; Escape, or a press beside it, shuts it. */
export function MoreActs({
  words = 'More',
  of,
  children,
}: {
  words?: string;
  of: string;
  children: ReactNode;
}) {
  const box = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    const shut = (event: Event): void => {
      const details = box.current;
      if (!details?.open) return;
      if (event instanceof KeyboardEvent) {
        if (event.key !== 'Escape') return;
        details.open = false;
        details.querySelector('summary')?.focus();
      } else if (event.target instanceof Node && !details.contains(event.target)) details.open = false;
    };
    document.addEventListener('keydown', shut);
    document.addEventListener('pointerdown', shut);
    return () => {
      document.removeEventListener('keydown', shut);
      document.removeEventListener('pointerdown', shut);
    };
  }, []);
  return (
    <details className="more-acts" ref={box}>
      <summary className="btn btn-plain" aria-label={`${words}: ${of}`}>
        {words}
      </summary>
      <div className="more-list">{children}</div>
    </details>
  );
}
