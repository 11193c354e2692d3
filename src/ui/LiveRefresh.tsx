'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

const EVERY_MS = 4000;

/** Looks again when another tablet did something on this run or session; what is being typed here stays. */
export function LiveRefresh({ address, stamp }: { address: string; stamp: number }) {
  const router = useRouter();
  useEffect(() => {
    const look = async (): Promise<void> => {
      if (document.hidden) return;
      const answer = await fetch(address).catch(() => null);
      if (!answer?.ok) return;
      const now = (await answer.json()) as { stamp?: unknown };
      if (typeof now.stamp === 'number' && now.stamp !== stamp) router.refresh();
    };
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => clearInterval(timer);
  }, [address, stamp, router]);
  return null;
}
