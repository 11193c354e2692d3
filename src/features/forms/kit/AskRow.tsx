'use client';

import { useEffect, useRef } from 'react';
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
  const row = useRef<HTMLDivElement>(null);
  // The question has the focus, none of its answers: Enter pressed once too often chooses nothing.
  useEffect(() => {
    if (question !== null) row.current?.focus();
  }, [question]);
  if (question === null) return null;
  const { typed, why, proposed, unit } = question;
  return (
    <div ref={row} tabIndex={-1} role="alertdialog" aria-label="Is this meant?" className="notice mt-3 mb-0">
      <p className="mb-2">{why} What is it?</p>
      <div className="d-flex gap-2 flex-wrap">
        {[...proposed, typed].map((text) => (
          <Button key={text} variant="plain" className="mono" onClick={() => onAnswer(text)}>
            {text.trim()} <span className="fw-normal">{text === typed ? 'as typed' : unit}</span>
          </Button>
        ))}
      </div>
    </div>
  );
}
