'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

const EVERY_MS = 4000;

/** Looks again when another tablet did something on this run; what is being typed here stays. */
export function LiveRefresh({ runId, stamp }: { runId: string; stamp: string }) {
  const router = useRouter();
  useEffect(() => {
    const look = async (): Promise<void> => {
      if (document.hidden) return;
      const answer = await fetch(`/api/runs/${runId}/stamp`).catch(() => null);
      if (!answer?.ok) return;
      const now = (await answer.json()) as { stamp?: unknown };
      if (typeof now.stamp === 'string' && now.stamp !== stamp) router.refresh();
    };
    const timer = setInterval(() => void look(), EVERY_MS);
    return () => clearInterval(timer);
  }, [runId, stamp, router]);
  return null;
}
