'use client';

import { useState, useTransition } from 'react';

import { backToReading, closeIt, openItAgain, readingIsDone, roundAgain, sheetIsCut } from './actions';

const ACTS = {
  cut: sheetIsCut,
  done: readingIsDone,
  again: roundAgain,
  reread: backToReading,
  close: closeIt,
  reopen: openItAgain,
} as const;

/** One step of the walk; a refusal is said under the button. */
export function ActButton({
  act,
  sessionId,
  words,
  main = false,
}: {
  act: keyof typeof ACTS;
  sessionId: string;
  words: string;
  main?: boolean;
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  return (
    <>
      <button
        type="button"
        className={`btn w-100 ${main ? 'btn-main' : 'btn-plain'}`}
        disabled={pending}
        onClick={() =>
          start(async () => {
            const done = await ACTS[act](sessionId);
            if (!done.ok) setMessage(done.message);
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
