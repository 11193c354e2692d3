'use client';

import FormCheck from 'react-bootstrap/FormCheck';
import { useState } from 'react';

import type { CheckPolicy } from '@/core/control';
import { EVENT_KINDS, type EventKind } from '@/core/setup';
import { Field, KeptForm } from '@/features/forms/kit/Fields';
import { wholeOrNone } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';
import { EVENT_WORDS } from '@/ui/words/eventWords';

import { savePolicy } from './actions';

const DAYS = wholeOrNone(1, 9999, 'Type whole days, for example 30; empty never asks.');

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
  // What this form was filled from: somebody else's change since then is not written over.
  const [shown, setShown] = useState(version);
  const form = useKeptForm({
    ...{ what: ['policy', rigId, shown, events, signals], done: 'Kept.' },
    initial: { idleDays: policy.idleDays === null ? '' : String(policy.idleDays) },
    readers: { idleDays: DAYS },
    send: ({ idleDays }, stamp) =>
      savePolicy({ rigId, version: shown, events: [...events], signals, idleDays }, stamp),
    after: (typed) => typed,
    onKept: () => setShown(shown + 1),
  });
  const toggle = (kind: EventKind): void =>
    setEvents(events.includes(kind) ? events.filter((k) => k !== kind) : [...events, kind]);
  return (
    <KeptForm form={form} words="Keep this" className="panel">
      <h2>When it asks to be checked</h2>
      <fieldset>
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
          label="when cuts drift off on average"
          checked={signals}
          onChange={() => setSignals(!signals)}
        />
        <Field
          {...{ form, id: 'ask-days', name: 'idleDays', width: 'mt-3' }}
          label="After so many days without a cut"
          hint="Empty: no reminder by date."
          figures="whole"
        />
      </fieldset>
    </KeptForm>
  );
}
