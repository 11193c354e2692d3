'use client';

import { PendingButton } from '@/ui/PendingButton';

import { backToReading, closeIt, openItAgain, roundAgain, sheetIsCut } from './actions';

const ACTS = {
  cut: sheetIsCut,
  again: roundAgain,
  reread: backToReading,
  close: closeIt,
  reopen: openItAgain,
} as const;

/** One step of the walk. */
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
  const press = async (): Promise<string | undefined> => {
    const result = await ACTS[act](sessionId);
    return result?.ok === false ? result.message : undefined;
  };
  return <PendingButton words={words} main={main} wide onPress={press} />;
}
