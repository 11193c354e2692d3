'use client';

import { useEffect, useRef, useState, type ReactNode } from 'react';

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
  /** Opened from here on, whatever was left. */
  open?: boolean;
  /** Where a link to it leads: it is open then. */
  anchor?: string;
  children: ReactNode;
}) {
  const fold = useRef<HTMLDetailsElement>(null);
  // What stands open is never shut under the hand: only whoever opened it closes it.
  const [atFirst] = useState(open);
  useEffect(() => {
    // Pressed before the page's own code ran.
    if (fold.current?.open && !atFirst) localStorage.setItem(keyOf(name), '1');
  }, [name, atFirst]);
  useEffect(() => {
    // Never in the middle of a press that made the page run: that press would shut what was just opened.
    const timer = setTimeout(() => {
      if (!fold.current) return;
      const wanted = anchor !== undefined && window.location.hash === `#${anchor}`;
      if (wanted || open || localStorage.getItem(keyOf(name))) fold.current.open = true;
      if (wanted) fold.current.scrollIntoView();
    });
    return () => clearTimeout(timer);
  }, [name, anchor, open]);
  // Before the press is carried out: what was opened for another reason is not remembered.
  const remember = (): void => {
    if (fold.current?.open) localStorage.removeItem(keyOf(name));
    else localStorage.setItem(keyOf(name), '1');
  };
  return (
    <details ref={fold} className="fold" open={atFirst}>
      <summary onClick={remember}>
        <strong>{words}</strong> {usual && <span className="soft">{usual}</span>}
      </summary>
      <div className="folded">{children}</div>
    </details>
  );
}
