'use client';

import Button from 'react-bootstrap/Button';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { setArchived } from './actions';

/** Takes a rig off the bench, with undo; its log stays. */
export function RemoveSetup({
  setupId,
  name,
  archived,
}: {
  setupId: string;
  name: string;
  archived: boolean;
}) {
  const router = useRouter();
  const [off, setOff] = useState(archived);
  const [message, setMessage] = useState('');
  const [pending, start] = useTransition();
  const set = (next: boolean): void =>
    start(async () => {
      const done = await keeping(['archive', setupId, next], (stamp) =>
        setArchived({ setupId, archived: next }, stamp),
      );
      if (!done.ok) return setMessage(whyNotDone(done));
      setOff(next);
      setMessage('');
      router.refresh();
    });
  return (
    <section className="panel">
      <h2>Put away</h2>
      <p className="small-print">Its sheets, sessions and settings stay in the logbook.</p>
      {!off && (
        <Button variant="plain" disabled={pending} onClick={() => set(true)}>
          Put {name} away
        </Button>
      )}
      {message && <span className="field-error">{message}</span>}
      {off && (
        <div className="undo" role="status">
          {name} is put away.
          <Button variant="quiet" disabled={pending} onClick={() => set(false)}>
            Put it back
          </Button>
        </div>
      )}
    </section>
  );
}
