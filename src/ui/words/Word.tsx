'use client';

import { lazy, Suspense, useId, useState, type ReactNode } from 'react';

import { WORDS, type Term } from './words';

const WordTip = lazy(() => import('./WordTip'));

/** A word with what it means, shown on hover, focus and tap. */
export function Word({ of, children }: { of: Term; children?: ReactNode }) {
  const [target, setTarget] = useState<HTMLButtonElement | null>(null);
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <>
      <button
        type="button"
        className="word"
        ref={setTarget}
        aria-describedby={open ? id : undefined}
        onMouseEnter={() => setOpen(true)}
        onMouseLeave={() => setOpen(false)}
        onFocus={() => setOpen(true)}
        onBlur={() => setOpen(false)}
        onClick={() => setOpen(true)}
        onKeyDown={(event) => event.key === 'Escape' && setOpen(false)}
      >
        {children ?? of}
      </button>
      {open && target && (
        <Suspense>
          <WordTip target={target} id={id} text={WORDS[of]} />
        </Suspense>
      )}
    </>
  );
}
