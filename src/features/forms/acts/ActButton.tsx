'use client';

import type { ReactNode } from 'react';

import { PendingButton } from '@/ui/PendingButton';

import { keeping } from '@/features/forms/keeping';

import { whyNot } from './AskShown';

import {
  backToReading,
  closeAndAccept,
  closeIt,
  declareDirections,
  discardIt,
  openItAgain,
  registerOnceMore,
  roundAgain,
  sheetIsCut,
  widenIt,
} from './sessionActs';

const ACTS = {
  cut: sheetIsCut,
  again: roundAgain,
  reread: backToReading,
  register: registerOnceMore,
  directions: declareDirections,
  close: closeIt,
  accept: closeAndAccept,
  discard: discardIt,
  reopen: openItAgain,
  widen: widenIt,
} as const;

/** One step of the walk. */
export function ActButton({
  act,
  session,
  words,
  main = false,
  enter = false,
}: {
  act: keyof typeof ACTS;
  /** The session as this page shows it: an act on an older state is refused. */
  session: { readonly id: string; readonly version: number };
  words: string;
  main?: boolean;
  /** Enter presses it, wherever the focus is but in fields and on other buttons. */
  enter?: boolean;
}) {
  const press = async (again: () => void): Promise<ReactNode> => {
    const { id, version } = session;
    const result = await keeping([act, id], (stamp) => ACTS[act](id, stamp), version);
    return whyNot(result, again);
  };
  return <PendingButton words={words} main={main} wide enter={enter} onPress={press} />;
}
