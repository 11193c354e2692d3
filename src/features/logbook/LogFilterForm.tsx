'use client';

import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useRouter, useSearchParams } from 'next/navigation';

const OUTCOMES = [
  ['plumb', 'plumb'],
  ['leaning', 'leaning'],
  ['out-of-plumb', 'out of plumb'],
] as const;
const KINDS = [
  ['calibration', 'calibrations'],
  ['quick-check', 'quick checks'],
  ['roll-proof', 'roll proofs'],
] as const;

/** Filters live in the address, so that a view can be kept and sent on. */
export function LogFilterForm({
  setups,
  chosen,
}: {
  setups: readonly { id: string; words: string }[];
  chosen: { setup?: string; kind?: string; outcome?: string; find?: string };
}) {
  const router = useRouter();
  const params = useSearchParams();
  const set = (name: string, value: string): void => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    next.delete('page');
    router.push(`/logbook?${next}`);
  };
  const pick = (
    name: 'setup' | 'kind' | 'outcome',
    label: string,
    options: readonly (readonly [string, string])[],
  ) => (
    <div>
      <FormLabel htmlFor={`filter-${name}`}>{label}</FormLabel>
      <FormSelect
        id={`filter-${name}`}
        value={chosen[name] ?? ''}
        onChange={(e) => set(name, e.target.value)}
      >
        <option value="">all</option>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </FormSelect>
    </div>
  );
  return (
    <>
      <form
        role="search"
        onSubmit={(event) => {
          event.preventDefault();
          set('find', String(new FormData(event.currentTarget).get('find') ?? '').trim());
        }}
      >
        <FormLabel htmlFor="filter-find">Find</FormLabel>
        <FormControl
          id="filter-find"
          name="find"
          type="search"
          key={chosen.find}
          defaultValue={chosen.find}
          placeholder="rig, medium, who"
          maxLength={100}
        />
      </form>
      {pick(
        'setup',
        'Rig',
        setups.map((r) => [r.id, r.words] as const),
      )}
      {pick('kind', 'What', KINDS)}
      {pick('outcome', 'State', OUTCOMES)}
    </>
  );
}
