'use client';

import Button from 'react-bootstrap/Button';

import type { Question } from './useAsk';

/** Asks about a figure, where it was typed: one of those that a slip explains is meant, or it is as it was typed. */
export function AskRow({
  question,
  onAnswer,
}: {
  question: Question | null;
  /** What is meant, as it would be typed. */
  onAnswer: (meant: string) => void;
}) {
  if (question === null) return null;
  const { typed, why, proposed } = question;
  return (
    <div role="alertdialog" aria-label="Is this meant?" className="notice mt-3 mb-0">
      <p className="mb-2">{why} What is it?</p>
      <div className="d-flex gap-2 flex-wrap">
        {[...proposed, typed].map((text, i) => (
          <Button
            key={text}
            variant="plain"
            className="mono"
            autoFocus={i === 0}
            onClick={() => onAnswer(text)}
          >
            {text.trim()}
            {text === typed && <span className="fw-normal ps-1">as typed</span>}
          </Button>
        ))}
      </div>
    </div>
  );
}
