'use client';

import FormCheck from 'react-bootstrap/FormCheck';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import { useState, useTransition } from 'react';

import type { CheckPolicy } from '@/core/control';
import { EVENT_KINDS, type EventKind } from '@/core/setup';
import { KeepRow } from '@/features/forms/KeepRow';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { EVENT_WORDS } from '@/ui/eventWords';
import { useHydrated } from '@/ui/useHydrated';

import { savePolicy } from './actions';

const DAYS = 'Type whole days, for example 30; empty never asks.';

/** When a rig asks to be checked: after events, after a rest, when its loads creep. */
export function PolicyForm({
  rigId,
  version,
  policy,
}: {
  rigId: string;
  version: number;
  policy: CheckPolicy;
}) {
  const [events, setEvents] = useState<readonly EventKind[]>(policy.events);
  const [signals, setSignals] = useState(policy.signals);
  const [days, setDays] = useState(policy.idleDays === null ? '' : String(policy.idleDays));
  // What this form was filled from: somebody else's change since then is not written over.
  const [shown, setShown] = useState(version);
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const typed = days.trim();
  const wrong = typed !== '' && !/^[1-9]\d{0,3}$/.test(typed);
  const toggle = (kind: EventKind): void =>
    setEvents(events.includes(kind) ? events.filter((k) => k !== kind) : [...events, kind]);
  return (
    <form
      className="panel"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong) return;
        start(async () => {
          const given = {
            rigId,
            version: shown,
            events: [...events],
            signals,
            idleDays: typed === '' ? null : Number(typed),
          };
          const done = await keeping(['policy', given], (stamp) => savePolicy(given, stamp));
          if (done.ok) setShown(shown + 1);
          setSaid(done.ok ? 'Kept.' : whyNotDone(done));
        });
      }}
    >
      <h2>When it asks to be checked</h2>
      <fieldset disabled={!ready}>
        <legend className="form-label fs-6">After</legend>
        <div className="row g-0">
          {EVENT_KINDS.map((kind) => (
            <FormCheck
              key={kind}
              id={`ask-${kind}`}
              className="col-sm-6 py-2 m-0"
              label={EVENT_WORDS[kind]}
              checked={events.includes(kind)}
              onChange={() => toggle(kind)}
            />
          ))}
        </div>
        <FormCheck
          id="ask-signals"
          className="mt-3"
          label="when its loads land elsewhere than they should, on average"
          checked={signals}
          onChange={() => setSignals(!signals)}
        />
        <div className="mt-3">
          <FormLabel htmlFor="ask-days">After so many days without a cut</FormLabel>
          <FormControl
            id="ask-days"
            className="mono"
            inputMode="numeric"
            autoComplete="off"
            value={days}
            aria-invalid={wrong}
            aria-describedby="ask-days-say"
            onChange={(event) => setDays(event.target.value)}
          />
          <span id="ask-days-say" className={wrong ? 'field-error' : 'small-print'}>
            {wrong ? DAYS : 'Empty: it never asks because of a rest.'}
          </span>
        </div>
        <KeepRow pending={pending} said={said} />
      </fieldset>
    </form>
  );
}
