'use client';

import FormSelect from 'react-bootstrap/FormSelect';
import { useRouter } from 'next/navigation';

/** The rig that a plan is made for. */
export function SetupChoice({
  setups,
  current,
}: {
  setups: readonly { readonly id: string; readonly words: string }[];
  current: string;
}) {
  const router = useRouter();
  return (
    <FormSelect
      className="w-auto fw-semibold"
      aria-label="Rig"
      value={current}
      onChange={(event) => router.push(`/jobs/new?setup=${event.target.value}`)}
    >
      {setups.map((r) => (
        <option key={r.id} value={r.id}>
          {r.words}
        </option>
      ))}
    </FormSelect>
  );
}
