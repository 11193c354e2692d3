'use client';

import { useState } from 'react';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { JobLayout } from '@/core/sheetJob';
import { fieldLength, lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { anew, useDraft } from './DraftWork';
import { Typed } from './Typed';

/** How a draft is laid out: every change lays it out anew. */
export function SheetDesk({
  setups,
  unit,
}: {
  /** On which it could be printed and cut. */
  setups: readonly { readonly id: string; readonly words: string }[];
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const { laid, pending, change } = useDraft();
  const [error, setError] = useState<string | undefined>();
  const layout = (by: Partial<JobLayout>): void => change(anew(laid, { layout: { ...laid.layout, ...by } }));
  const gap = (text: string): void => {
    const read = parseLength(text, unit);
    setError(read.ok ? undefined : lengthRefusalText(read.refusal, unit));
    if (read.ok && Math.abs(read.value - laid.layout.gapMm) > 1e-6) layout({ gapMm: read.value });
  };
  return (
    <section className="panel" aria-busy={pending}>
      <h2>How it is laid out</h2>
      <div className="mb-2">
        <FormLabel htmlFor="sheet-setup">Printed and cut on</FormLabel>
        <FormSelect
          id="sheet-setup"
          disabled={!ready}
          value={laid.setupId}
          onChange={(event) => change(anew({ ...laid, setupId: event.target.value }))}
        >
          {setups.map((s) => (
            <option key={s.id} value={s.id}>
              {s.words}
            </option>
          ))}
        </FormSelect>
      </div>
      <div className="row g-2">
        <Typed
          id="name"
          label="Name"
          value={laid.name}
          error={undefined}
          disabled={!ready}
          onTyped={(name) => {
            if (name.trim() !== '' && name.trim() !== laid.name)
              change({ ...laid, name: name.trim().slice(0, 80) });
          }}
        />
        <Typed
          id="gap"
          label={`Gap, ${unit}`}
          value={fieldLength(laid.layout.gapMm, unit)}
          error={error}
          disabled={!ready}
          onTyped={gap}
        />
      </div>
      <Tick
        id="turn"
        words="Allow turning"
        checked={laid.layout.mayTurn}
        disabled={!ready}
        onTick={(mayTurn) => layout({ mayTurn })}
      />
      <Tick
        id="centre"
        words="Centre on sheet"
        checked={laid.layout.centre}
        disabled={!ready}
        onTick={(centre) => layout({ centre })}
      />
      <Tick
        id="witness"
        words="Add a test station in the waste"
        checked={laid.layout.witness ?? false}
        disabled={!ready}
        onTick={(witness) => layout({ witness })}
      />
    </section>
  );
}

function Tick({
  id,
  words,
  checked,
  disabled,
  onTick,
}: {
  id: string;
  words: string;
  checked: boolean;
  disabled: boolean;
  onTick: (on: boolean) => void;
}) {
  return (
    <div className="form-check d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
      <FormCheckInput
        id={`sheet-${id}`}
        type="checkbox"
        className="mt-0"
        disabled={disabled}
        checked={checked}
        onChange={(event) => onTick(event.target.checked)}
      />
      <label htmlFor={`sheet-${id}`}>{words}</label>
    </div>
  );
}
