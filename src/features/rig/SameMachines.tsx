'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { Twin } from '@/server/rigs/sameMachines';
import { PendingButton } from '@/ui/PendingButton';

import { putTogether } from './actions';

/** Another rig names the same printer and cutter: offered, with what differs; only the operator knows. */
export function SameMachines({ rigId, rigName, twin }: { rigId: string; rigName: string; twin: Twin }) {
  const router = useRouter();
  const differing = twin.settings.filter((s) => s.other !== null && s.other.value !== s.value);
  const [kept, setKept] = useState<'one' | 'per-medium'>('one');
  const [shows, setShows] = useState<Readonly<Record<string, string>>>(
    Object.fromEntries(differing.map((s) => [s.id, String(s.value)])),
  );
  const press = async (): Promise<string | undefined> => {
    const figures = Object.fromEntries(
      Object.entries(shows).map(([id, typed]) => [id, Number(typed.replace(',', '.'))]),
    );
    if (kept === 'one' && Object.values(figures).some((v) => !Number.isFinite(v)))
      return 'Type what the machine shows as a number, for example 0.85.';
    const input = { rigId, otherId: twin.rigId, kept, shows: kept === 'one' ? figures : {} };
    const done = await keeping(['one rig', input], (stamp) => putTogether(input, stamp));
    if (!done.ok) return whyNotDone(done);
    router.refresh();
    return undefined;
  };
  return (
    <section className="panel mt-3" aria-label={`${twin.name} names the same machines`}>
      <h2>Is {twin.name} the same printer and cutter?</h2>
      <p>
        It names the same machines and is used with {twin.media.join(', ')}. If they are the same, its media
        become setups of {rigName}, with all their log, and nothing is typed twice.
      </p>
      {twin.against !== null ? (
        <p className="small-print mb-0">
          As they are described they are not the same: {twin.against}. If they are, mend that on one of the
          two pages; if not, give one of the machines a name of its own.
        </p>
      ) : (
        <>
          {differing.length > 0 && (
            <fieldset className="choice">
              <legend className="fs-6">
                Their figures differ:{' '}
                {differing.map((s) => `${s.name} ${s.value} and ${s.other!.value}`).join(', ')}. Where does
                the machine keep them?
              </legend>
              <Form.Check
                type="radio"
                name={`kept-${twin.rigId}`}
                id={`kept-one-${twin.rigId}`}
                label="one for all media: it is typed anew when the medium changes"
                checked={kept === 'one'}
                onChange={() => setKept('one')}
              />
              <Form.Check
                type="radio"
                name={`kept-${twin.rigId}`}
                id={`kept-each-${twin.rigId}`}
                label="one for each medium: the machine brings it back by itself"
                checked={kept === 'per-medium'}
                onChange={() => setKept('per-medium')}
              />
              {kept === 'one' &&
                differing.map((s) => (
                  <div key={s.id} className="d-flex gap-2 align-items-center mt-2">
                    <Form.Label htmlFor={`shows-${s.id}`} className="mb-0">
                      {s.name} shows now
                    </Form.Label>
                    <Form.Control
                      id={`shows-${s.id}`}
                      className="mono"
                      style={{ width: 110 }}
                      inputMode="decimal"
                      value={shows[s.id] ?? ''}
                      onChange={(e) => setShows({ ...shows, [s.id]: e.target.value })}
                    />
                  </div>
                ))}
            </fieldset>
          )}
          <PendingButton words="They are the same: make it one rig" onPress={press} />
        </>
      )}
    </section>
  );
}
