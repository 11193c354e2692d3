'use client';

import { useRouter } from 'next/navigation';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { putBack } from './actions';

/** Setups of a rig that were taken off the bench; each can be put back. */
export function OffTheBench({
  setups,
}: {
  setups: readonly { readonly id: string; readonly media: string }[];
}) {
  const router = useRouter();
  if (setups.length === 0) return null;
  const back = async (setupId: string): Promise<string | undefined> => {
    const done = await keeping(['back', setupId], (stamp) => putBack({ setupId, archived: false }, stamp));
    if (!done.ok) return whyNotDone(done);
    router.refresh();
    return undefined;
  };
  return (
    <section className="panel">
      <h2>Put away</h2>
      {setups.map((s) => (
        <div key={s.id} className="d-flex gap-3 align-items-center justify-content-between mb-2">
          <span>{s.media}</span>
          <PendingButton words={`Put ${s.media} back`} onPress={() => back(s.id)} />
        </div>
      ))}
    </section>
  );
}
