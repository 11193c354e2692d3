'use client';

import { useEffect, useRef, type ReactNode } from 'react';

const keyOf = (name: string): string => `red-plumb-open-${name}`;

/**
 * What is not needed now, one press away: a line that says what is usual. What somebody opened stays open in this browser,
 * by its name.
 */
export function Fold({
  name,
  words,
  usual = '',
  open = false,
  anchor,
  children,
}: {
  name: string;
  words: string;
  /** What holds while it stays closed. */
  usual?: ReactNode;
  /** Open at first, whatever was left. */
  open?: boolean;
  /** Where a link to it leads: it is open then. */
  anchor?: string;
  children: ReactNode;
}) {
  const fold = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    if (!fold.current) return;
    const wanted = anchor !== undefined && window.location.hash === `#${anchor}`;
    if (wanted || localStorage.getItem(keyOf(name))) fold.current.open = true;
    if (wanted) fold.current.scrollIntoView();
  }, [name, anchor]);
  return (
    <details
      ref={fold}
      className="fold"
      open={open}
      onToggle={({ currentTarget }) => {
        if (currentTarget.open) localStorage.setItem(keyOf(name), '1');
        else localStorage.removeItem(keyOf(name));
      }}
    >
      <summary>
        <strong>{words}</strong> {usual && <span className="soft">{usual}</span>}
      </summary>
      <div className="folded">{children}</div>
    </details>
  );
}
