'use client';

import type { ReactNode } from 'react';

import { PendingButton } from '@/ui/PendingButton';

import { keeping } from '@/features/forms/keeping';

import { whyNot } from './AskShown';

import { startOnSetup } from './actions';

/** Starts a calibration or a quick check, or goes on with the one that is open. */
export function StartButton({
  setupId,
  kind,
  words,
  main = false,
}: {
  setupId: string;
  kind: 'calibration' | 'quick-check';
  words: string;
  main?: boolean;
}) {
  const press = async (again: () => void): Promise<ReactNode> => {
    const result = await keeping(['start', setupId, kind], (stamp) => startOnSetup({ setupId, kind }, stamp));
    return whyNot(result, again);
  };
  return <PendingButton words={words} main={main} onPress={press} />;
}
