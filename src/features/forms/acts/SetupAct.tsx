'use client';

import Link from 'next/link';

import type { ActView } from './setupActs';

import { StartButton } from './StartButton';

/** One of the things that can be done with a setup: the same words and the same way wherever it stands. */
export function SetupAct({ act, setupId, main }: { act: ActView; setupId: string; main: boolean }) {
  if (act.start !== null)
    return <StartButton setupId={setupId} kind={act.start} words={act.words} main={main} />;
  return (
    <Link className={main ? 'btn btn-main' : 'btn btn-plain'} href={act.href}>
      {act.words}
    </Link>
  );
}
