'use client';

import { PendingButton } from '@/ui/PendingButton';

import { keeping } from '@/features/forms/keeping';

import { startOnRig } from './actions';

/** Starts a calibration or a quick check, or goes on with the one that is open. */
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
  const press = async (): Promise<string | undefined> => {
    const result = await keeping(['start', rigId, kind], (stamp) => startOnRig({ rigId, kind }, stamp));
    return result?.ok === false ? result.message : undefined;
  };
  return <PendingButton words={words} main={main} onPress={press} />;
}
