'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';

import { keeping } from '@/features/forms/keeping';

import { setArchived } from './actions';

/** Takes a rig off the bench, with undo; its log stays. */
export function RemoveRig({ rigId, name, archived }: { rigId: string; name: string; archived: boolean }) {
  const router = useRouter();
  const [off, setOff] = useState(archived);
  const [message, setMessage] = useState('');
  const [pending, start] = useTransition();
  const set = (next: boolean): void =>
    start(async () => {
      const done = await keeping(['archive', rigId, next], (stamp) =>
        setArchived({ rigId, archived: next }, stamp),
      );
      if (!done.ok) return setMessage(done.message);
      setOff(next);
      setMessage('');
      router.refresh();
    });
  return (
    <section className="panel">
      <h2>Take it off the bench</h2>
      <p className="small-print">Its sheets, sessions and settings stay in the logbook.</p>
      {!off && (
        <button type="button" className="btn btn-plain" disabled={pending} onClick={() => set(true)}>
          Take {name} off the bench
        </button>
      )}
      {message && <span className="field-error">{message}</span>}
      {off && (
        <div className="undo" role="status">
          {name} is off the bench.
          <button type="button" className="btn" disabled={pending} onClick={() => set(false)}>
            Put it back
          </button>
        </div>
      )}
    </section>
  );
}
