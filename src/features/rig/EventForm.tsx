'use client';

import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import { OF_ONE_SETUP, type EventKind } from '@/core/setup';
import { KeepRow } from '@/features/forms/KeepRow';
import { keeping } from '@/features/forms/keeping';

import { noteEvent } from './actions';
import { EVENT_WORDS } from '@/ui/eventWords';

/** “It was moved”: things after which a rig should be checked. Some concern one medium only. */
export function EventForm({
  setups,
  asksAfter,
}: {
  /** Events after which the rig asks to be checked. */
  asksAfter: readonly EventKind[];
  setups: readonly { readonly id: string; readonly media: string }[];
}) {
  const [setupId, setSetupId] = useState(setups[0]!.id);
  const [kind, setKind] = useState<EventKind>('moved');
  const [note, setNote] = useState('');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      className="panel"
      onSubmit={(event) => {
        event.preventDefault();
        start(async () => {
          const done = await keeping(['event', setupId, kind, note], (stamp) =>
            noteEvent({ setupId, kind, note }, stamp),
          );
          setSaid(
            done.ok
              ? asksAfter.includes(kind)
                ? 'Noted. The bench asks for a quick check now.'
                : 'Noted.'
              : (done.fields.note ?? done.message),
          );
          if (done.ok) setNote('');
        });
      }}
    >
      <h2>Something happened to it</h2>
      <div className="row g-2">
        <div className="col-sm-5">
          <FormLabel htmlFor="event-kind">What</FormLabel>
          <FormSelect id="event-kind" value={kind} onChange={(e) => setKind(e.target.value as EventKind)}>
            {Object.entries(EVENT_WORDS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </FormSelect>
        </div>
        {OF_ONE_SETUP.includes(kind) && setups.length > 1 && (
          <div className="col-sm-7">
            <FormLabel htmlFor="event-setup">Of</FormLabel>
            <FormSelect id="event-setup" value={setupId} onChange={(e) => setSetupId(e.target.value)}>
              {setups.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.media}
                </option>
              ))}
            </FormSelect>
          </div>
        )}
        <div className="col-sm-7">
          <FormLabel htmlFor="event-note">Note</FormLabel>
          <FormControl
            id="event-note"
            value={note}
            maxLength={250}
            onChange={(e) => setNote(e.target.value)}
          />
        </div>
      </div>
      <KeepRow words="Note it" pending={pending} said={said} />
    </form>
  );
}
