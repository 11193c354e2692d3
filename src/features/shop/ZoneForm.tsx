'use client';

import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import { KeepRow } from '@/features/forms/KeepRow';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { saveZone } from './actions';

/** The time zone of the shop: what its days and hours are written in. */
export function ZoneForm({
  zone,
  ofServer,
  zones,
}: {
  /** Null: as the server has it. */
  zone: string | null;
  ofServer: string;
  zones: readonly string[];
}) {
  const [chosen, setChosen] = useState(zone ?? '');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        start(async () => {
          const given = { zone: chosen === '' ? null : chosen };
          const done = await keeping(['zone', given], (stamp) => saveZone(given, stamp));
          setSaid(done.ok ? 'Kept.' : whyNotDone(done));
        });
      }}
    >
      <fieldset disabled={!ready}>
        <FormLabel htmlFor="shop-zone">Time zone</FormLabel>
        <FormSelect id="shop-zone" value={chosen} onChange={(event) => setChosen(event.target.value)}>
          <option value="">as this server has it: {ofServer}</option>
          {zones.map((name) => (
            <option key={name} value={name}>
              {name.replaceAll('_', ' ')}
            </option>
          ))}
        </FormSelect>
        <KeepRow pending={pending} said={said} />
      </fieldset>
    </form>
  );
}
