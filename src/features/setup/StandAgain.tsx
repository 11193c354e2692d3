'use client';

import { useRouter } from 'next/navigation';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { letStandAgain } from './actions';

/** One press back to an earlier standing correction; what it wants is typed at the next change-over. */
export function StandAgain({
  setupId,
  standingId,
  when,
}: {
  setupId: string;
  standingId: string;
  when: string;
}) {
  const router = useRouter();
  const press = async (): Promise<string | undefined> => {
    const done = await keeping(['stand', standingId], (stamp) =>
      letStandAgain({ setupId, standingId }, stamp),
    );
    if (!done.ok) return whyNotDone(done);
    router.refresh();
    return undefined;
  };
  return (
    <PendingButton words="Use this one again" label={`Use this one again, as of ${when}`} onPress={press} />
  );
}
