'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';

import { keeping, type ActionResult, type ToChangeOver, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { changedOver } from './actions';

/**
 * What is said beside a button that was not carried out: the reason, and where the machine has to show other figures
 * first, the question whether it does by now. Yes is written into the log, and the button is pressed again.
 */
export function whyNot(result: ActionResult<unknown> | undefined, again: () => void): ReactNode {
  if (result?.ok !== false) return undefined;
  return result.changeOver ? (
    <AskShown message={whyNotDone(result)} changeOver={result.changeOver} again={again} />
  ) : (
    whyNotDone(result)
  );
}

function AskShown({
  message,
  changeOver,
  again,
}: {
  message: string;
  changeOver: ToChangeOver;
  again: () => void;
}) {
  const yes = async (): Promise<string | undefined> => {
    const input = { ...changeOver, found: {} };
    const done = await keeping(['change over', input], (stamp) => changedOver(input, stamp));
    if (!done.ok) return whyNotDone(done);
    again();
    return undefined;
  };
  return (
    <span className="ask-shown">
      {message}
      <span className="d-flex gap-2 flex-wrap mt-2">
        <PendingButton words="It shows them now: go on" onPress={yes} />
        <Link className="btn btn-plain" href={`/setups/${changeOver.setupId}/change-over`}>
          Change over
        </Link>
      </span>
    </span>
  );
}
