'use client';

import { useState, useTransition } from 'react';

import { startOnRig } from './actions';

/** Starts a calibration or a quick check; a refusal is said beside the button. */
export function StartButton({
  rigId,
  kind,
  words,
  main = false,
}: {
  rigId: string;
  kind: 'calibration' | 'quick-check';
  words: string;
  main?: boolean;
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  return (
    <>
      <button
        type="button"
        className={`btn ${main ? 'btn-main' : 'btn-plain'}`}
        disabled={pending}
        onClick={() =>
          start(async () => {
            const result = await startOnRig(rigId, kind);
            if (!result.ok) setMessage(result.message);
          })
        }
      >
        {words}
      </button>
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </>
  );
}
