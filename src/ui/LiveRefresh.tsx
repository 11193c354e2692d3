'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useTransition } from 'react';

/** With what a look takes, what somebody else did is seen within three seconds. */
const EVERY_MS = 2000;

/** Looks again when another tablet did something on this run or session, or in the shop; what is being typed here stays. */
export function LiveRefresh({ address, stamp }: { address: string; stamp: number }) {
  const router = useRouter();
  // One look at a time: a server that takes longer than the interval would never be heard otherwise.
  const [looking, startLooking] = useTransition();
  useEffect(() => {
    if (looking) return;
    let gone = false;
    let timer: ReturnType<typeof setTimeout>;
    const look = async (): Promise<void> => {
      const now = document.hidden ? null : await stampAt(address);
      if (gone) return;
      if (now !== null && now !== stamp) startLooking(() => router.refresh());
      else timer = setTimeout(() => void look(), EVERY_MS);
    };
    timer = setTimeout(() => void look(), EVERY_MS);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [address, stamp, router, looking]);
  return null;
}

async function stampAt(address: string): Promise<number | null> {
  const answer = await fetch(address).catch(() => null);
  if (!answer?.ok) return null;
  const { stamp } = (await answer.json().catch(() => ({}))) as { stamp?: unknown };
  return typeof stamp === 'number' ? stamp : null;
}
