'use client';

import Button from 'react-bootstrap/Button';

import type { Question } from './useAsk';

/** Asks about a figure: what was typed is meant, or what is proposed is. */
export function AskRow({
  question,
  onAnswer,
}: {
  question: Question | null;
  /** True: as it was typed. */
  onAnswer: (meant: boolean) => void;
}) {
  if (question === null) return null;
  const { typed, why, proposed } = question;
  return (
    <div role="alertdialog" aria-label="Is this meant?" className="notice mt-3 mb-0">
      <p className="mb-2">
        {why} {proposed === null ? 'Is it meant?' : `Did you mean ${proposed}?`}
      </p>
      <div className="d-flex gap-2 flex-wrap">
        {proposed !== null && (
          <Button variant="plain" autoFocus onClick={() => onAnswer(false)}>
            It is {proposed}
          </Button>
        )}
        <Button variant="plain" autoFocus={proposed === null} onClick={() => onAnswer(true)}>
          It is {typed.trim()}
        </Button>
      </div>
    </div>
  );
}
