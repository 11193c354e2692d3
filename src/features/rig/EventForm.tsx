'use client';

import { OF_ONE_SETUP, type EventKind } from '@/core/setup';
import { Choice, Field, KeptForm } from '@/features/forms/kit/Fields';
import { plainWords } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';
import { EVENT_WORDS } from '@/ui/words/eventWords';

import { noteEvent } from './actions';

/** “It was moved”: things after which a rig should be checked. Some concern one medium only. */
export function EventForm({
  setups,
  asksAfter,
}: {
  /** Events after which the rig asks to be checked. */
  asksAfter: readonly EventKind[];
  setups: readonly { readonly id: string; readonly media: string }[];
}) {
  const form = useKeptForm({
    what: 'event',
    initial: { setupId: setups[0]!.id, kind: 'moved', note: '' },
    readers: { setupId: plainWords, kind: plainWords, note: plainWords },
    send: ({ kind, ...event }, stamp) => noteEvent({ ...event, kind: kind as EventKind }, stamp),
    done: ({ kind }) =>
      asksAfter.includes(kind as EventKind) ? 'Noted. The bench asks for a quick check now.' : 'Noted.',
    after: (typed) => ({ ...typed, note: '' }),
  });
  return (
    <KeptForm form={form} words="Note it" className="panel">
      <h2>Something happened to it</h2>
      <div className="row g-2">
        <Choice
          {...{ form, id: 'event-kind', name: 'kind', label: 'What', width: 'col-sm-5' }}
          options={Object.entries(EVENT_WORDS)}
        />
        {OF_ONE_SETUP.includes(form.typed.kind as EventKind) && setups.length > 1 && (
          <Choice
            {...{ form, id: 'event-setup', name: 'setupId', label: 'Of', width: 'col-sm-7' }}
            options={setups.map((s) => [s.id, s.media] as const)}
          />
        )}
        <Field
          {...{ form, id: 'event-note', name: 'note', label: 'Note', width: 'col-sm-7' }}
          maxLength={250}
        />
      </div>
    </KeptForm>
  );
}
