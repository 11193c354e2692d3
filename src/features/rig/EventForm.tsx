'use client';

import { useState, useTransition } from 'react';

import { keeping } from '@/features/forms/keeping';

import { noteEvent } from './actions';
import { EVENT_WORDS } from '@/ui/eventWords';

/** “It was moved”: things after which a rig should be checked. */
export function EventForm({ rigId }: { rigId: string }) {
  const [kind, setKind] = useState('moved');
  const [note, setNote] = useState('');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      className="panel"
      onSubmit={(event) => {
        event.preventDefault();
        start(async () => {
          const done = await keeping(['event', rigId, kind, note], (stamp) =>
            noteEvent({ rigId, kind, note }, stamp),
          );
          setSaid(
            done.ok ? 'Noted. The bench asks for a quick check now.' : (done.fields.note ?? done.message),
          );
          if (done.ok) setNote('');
        });
      }}
    >
      <h2>Something happened to it</h2>
      <div className="row g-2">
        <div className="col-sm-5">
          <label className="form-label" htmlFor="event-kind">
            What
          </label>
          <select
            id="event-kind"
            className="form-select"
            value={kind}
            onChange={(e) => setKind(e.target.value)}
          >
            {Object.entries(EVENT_WORDS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </div>
        <div className="col-sm-7">
          <label className="form-label" htmlFor="event-note">
            Note
          </label>
          <input
            id="event-note"
            className="form-control"
            value={note}
            maxLength={250}
            onChange={(e) => setNote(e.target.value)}
          />
        </div>
      </div>
      <div className="d-flex gap-3 align-items-center mt-3">
        <button type="submit" className="btn btn-plain" disabled={pending}>
          Note it
        </button>
        <span role="status">{said}</span>
      </div>
    </form>
  );
}
