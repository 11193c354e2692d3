'use client';

import { useRef, useState } from 'react';

/** A figure that is hardly meant. */
export interface Question {
  /** Which field it stands in. */
  readonly field: string;
  readonly typed: string;
  readonly why: string;
  /** What may have been meant, as it would be typed, the likeliest first. */
  readonly proposed: readonly string[];
  /** What it is proposed in: “mm”. */
  readonly unit: string;
}

/** How it was answered: kept with what was kept. */
export interface Answered {
  readonly field: string;
  readonly typed: string;
  readonly why: string;
  readonly meant: string;
}

const same = (a: Pick<Question, 'field' | 'typed'>, b: Pick<Question, 'field' | 'typed'>): boolean =>
  a.field === b.field && a.typed === b.typed;

/** Asks about figures that are hardly meant: each once, and never in the way of who means it. */
export function useAsk() {
  const [question, setQuestion] = useState<Question | null>(null);
  const answered = useRef<Answered[]>([]);
  return {
    question,
    /** Asks the first that was not answered yet; false where there is none. */
    asks: (questions: readonly Question[]): boolean => {
      const next = questions.find((q) => !answered.current.some((a) => same(a, q))) ?? null;
      setQuestion(next);
      return next !== null;
    },
    /** Keeps the answer: what is meant, and stands in the field from now on. */
    answer: (asked: Question, meant: string): string => {
      const { field, typed, why } = asked;
      answered.current = [...answered.current.filter((a) => !same(a, asked)), { field, typed, why, meant }];
      setQuestion(null);
      return meant;
    },
    /** Something else is typed: the question is gone. */
    withdraw: () => setQuestion(null),
    /** What was asked and answered since the last time something was kept. */
    answers: (): readonly Answered[] => answered.current,
    forget: () => {
      answered.current = [];
    },
  };
}
