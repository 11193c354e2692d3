'use client';

import Button from 'react-bootstrap/Button';
import { useEffect, useState, useTransition, type ReactNode } from 'react';

/** A button that carries something out; a refusal is said beside it, and nothing is pressed twice. */
export function PendingButton({
  words,
  label,
  onPress,
  main = false,
  wide = false,
  enter = false,
}: {
  words: string;
  /** What it is called where the words alone do not tell; they are part of it. */
  label?: string;
  /** Resolves with what went wrong, or with nothing when it worked; `again` presses it once more. */
  onPress: (again: () => void) => Promise<ReactNode>;
  main?: boolean;
  wide?: boolean;
  /** Enter presses it, wherever the focus is but in fields and on other buttons. */
  enter?: boolean;
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState<ReactNode>(null);
  const press = (): void => start(async () => setMessage((await onPress(press)) ?? null));
  useEffect(() => {
    if (!enter || pending) return;
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (
        event.key !== 'Enter' ||
        target.closest('input, textarea, select, button, a, summary, .modal, .offcanvas')
      )
        return;
      event.preventDefault();
      press();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  });
  return (
    <>
      <Button
        variant={main ? 'main' : 'plain'}
        className={wide ? 'w-100' : ''}
        disabled={pending}
        aria-label={label}
        onClick={press}
      >
        {words}
        {enter && (
          <>
            {' '}
            <kbd className="key-hint">Enter</kbd>
          </>
        )}
      </Button>
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </>
  );
}
