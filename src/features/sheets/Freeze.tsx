'use client';

import { useEffect, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { freezeSheetJob } from './actions';
import { useDraft } from './DraftWork';

/**
 * Freezes a draft for printing. What is under way is waited for, and then frozen with what it made; what stops the job is
 * named once, and is overruled with a reason that stays with the job.
 */
export function Freeze({
  job,
  stops,
}: {
  job: { readonly id: string; readonly version: number };
  /** What would spoil the print, each in words. */
  stops: readonly string[];
}) {
  const { pending: underWay } = useDraft();
  const [wanted, setWanted] = useState(false);
  const [asked, setAsked] = useState(false);
  /** The version of which the server alone knew that something stops it. */
  const [refused, setRefused] = useState<number | null>(null);
  const [reason, setReason] = useState('');
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  useEffect(() => {
    if (!wanted || underWay) return;
    start(async () => {
      setWanted(false);
      const given = { jobId: job.id, reason };
      const done = await keeping(['freeze', given], (stamp) => freezeSheetJob(given, stamp), job.version);
      // Found by the server alone: asked for like what was known here.
      if (!done.ok && done.fields.reason) {
        setAsked(true);
        setRefused(job.version);
      }
      setSaid(done.ok ? '' : (done.fields.reason ?? whyNotDone(done)));
    });
  }, [wanted, underWay, job.id, job.version, reason]);
  const stopped = stops.length > 0 || refused === job.version;
  const asking = asked && stopped;
  const held = stopped && !asked;
  return (
    <div>
      {asking && (
        <div className="mb-2">
          <FormLabel htmlFor="freeze-reason">It would be spoiled. Why is it frozen all the same?</FormLabel>
          <FormControl
            id="freeze-reason"
            value={reason}
            maxLength={200}
            autoComplete="off"
            aria-invalid={said !== ''}
            aria-describedby={said ? 'freeze-said' : undefined}
            onChange={(e) => setReason(e.target.value)}
          />
        </div>
      )}
      <Button
        variant="main"
        className={`w-100 big-act${held ? ' waits' : ''}`}
        disabled={pending || wanted}
        // While something is under way nobody knows yet what stops it: it is waited for.
        onClick={() => (held && !underWay ? setAsked(true) : setWanted(true))}
      >
        {held
          ? `Freeze it for printing: first ${stops.length === 1 ? 'what stops it' : `the ${stops.length} that stop it`}`
          : wanted
            ? 'As soon as it is laid out …'
            : asking
              ? 'Freeze it all the same'
              : 'Freeze it for printing'}
      </Button>
      {said && (
        <span id="freeze-said" className="field-error" role="alert">
          {said}
        </span>
      )}
    </div>
  );
}
