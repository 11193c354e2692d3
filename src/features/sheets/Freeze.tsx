'use client';

import { useEffect, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { freezeSheetJob } from './actions';
import { useDraft } from './DraftWork';

/**
 * Freezes a draft for printing. What is under way is waited for, and then frozen with what it made; what stops the job is
 * named, and may be overruled.
 */
export function Freeze({
  job,
  stops,
}: {
  job: { readonly id: string; readonly version: number };
  /** How many findings would spoil the print. */
  stops: number;
}) {
  const { pending: underWay } = useDraft();
  const [wanted, setWanted] = useState(false);
  const [overruled, setOverruled] = useState(false);
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  useEffect(() => {
    if (!wanted || underWay) return;
    start(async () => {
      setWanted(false);
      const done = await keeping(['freeze', job.id], (stamp) => freezeSheetJob(job.id, stamp), job.version);
      setSaid(done.ok ? '' : whyNotDone(done));
    });
  }, [wanted, underWay, job.id, job.version]);
  const held = stops > 0 && !overruled;
  return (
    <div>
      <Button
        variant="main"
        className={`w-100 big-act${held ? ' waits' : ''}`}
        disabled={pending || wanted}
        onClick={() => (held ? setOverruled(true) : setWanted(true))}
      >
        {held
          ? `Freeze it for printing: first ${stops === 1 ? 'what stops it' : `the ${stops} that stop it`}`
          : wanted
            ? 'As soon as it is laid out …'
            : overruled
              ? 'Freeze it all the same'
              : 'Freeze it for printing'}
      </Button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </div>
  );
}
