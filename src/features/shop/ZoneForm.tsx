'use client';

import { Choice, KeptForm } from '@/features/forms/kit/Fields';
import { wordsOrNone } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';

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
  const form = useKeptForm({
    ...{ what: 'zone', done: 'Kept.' },
    initial: { zone: zone ?? '' },
    readers: { zone: wordsOrNone },
    after: (typed) => typed,
    send: saveZone,
  });
  return (
    <KeptForm form={form} words="Keep this">
      <Choice
        {...{ form, id: 'shop-zone', name: 'zone', label: 'Time zone', width: '' }}
        options={[
          ['', `as this server has it: ${ofServer}`],
          ...zones.map((name) => [name, name.replaceAll('_', ' ')] as const),
        ]}
      />
    </KeptForm>
  );
}
