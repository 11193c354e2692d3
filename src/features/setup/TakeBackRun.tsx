'use client';

import { useRouter } from 'next/navigation';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { ownPageTakenBack } from '@/features/forms/acts/actions';
import { PendingButton } from '@/ui/PendingButton';

/** A run of the machine's page that was entered by mistake counts no more. */
export function TakeBackRun({ id, when }: { id: string; when: string }) {
  const router = useRouter();
  const press = async (): Promise<string | undefined> => {
    const done = await keeping(['own page back', id], (stamp) => ownPageTakenBack(id, stamp));
    if (!done.ok) return whyNotDone(done);
    router.refresh();
    return undefined;
  };
  return <PendingButton words="Take back" label={`Take back the run of ${when}`} onPress={press} />;
}
