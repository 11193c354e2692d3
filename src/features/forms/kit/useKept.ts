'use client';

import { useState, useTransition } from 'react';

import { keeping, whyNotDone, type ActionResult, type BrowserStamp } from '@/features/forms/keeping';

/** Keeps something without a form; `said` is why it was not. */
export function useKept() {
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  const keepIt = (what: unknown, send: (stamp: BrowserStamp) => Promise<ActionResult<unknown>>): void =>
    start(async () => {
      const done = await keeping(what, send);
      setSaid(done?.ok === false ? whyNotDone(done) : '');
    });
  return { pending, said, keepIt };
}
