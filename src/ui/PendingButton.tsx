'use client';

import Button from 'react-bootstrap/Button';
import { useState, useTransition } from 'react';

/** A button that carries something out; a refusal is said beside it, and nothing is pressed twice. */
export function PendingButton({
  words,
  label,
  onPress,
  main = false,
  wide = false,
}: {
  words: string;
  /** What it is called where the words alone do not tell; they are part of it. */
  label?: string;
  /** Resolves with what went wrong, or with nothing when it worked. */
  onPress: () => Promise<string | undefined>;
  main?: boolean;
  wide?: boolean;
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  return (
    <>
      <Button
        variant={main ? 'main' : 'plain'}
        className={wide ? 'w-100' : ''}
        disabled={pending}
        aria-label={label}
        onClick={() => start(async () => setMessage((await onPress()) ?? ''))}
      >
        {words}
      </Button>
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </>
  );
}
