'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import { LINE_KINDS, type JobLayout, type LineKind } from '@/core/sheetJob';
import { fieldLength, lengthRefusalText, lengthText, parseLength, type LengthUnit } from '@/core/units';
import { keeping } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { changeSheetJob } from './actions';

export const KIND_WORDS: Readonly<Record<LineKind, string>> = {
  'cut-through': 'cut through',
  'kiss-cut': 'kiss cut, liner left whole',
  score: 'score',
  perforate: 'perforate',
  pen: 'pen',
};

/** Everything of a draft that is laid out by rule. */
export interface Laid {
  readonly layout: JobLayout;
  readonly bleedMm: number;
  readonly kind: LineKind;
}

/** How a draft is laid out: every change lays it out anew; any of them can be undone. */
export function SheetDesk({
  job,
  laid,
  neededMm,
  unit,
}: {
  job: { readonly id: string; readonly version: number };
  laid: Laid;
  /** The misregistration that the rig needs hidden; null where it was never measured. */
  neededMm: number | null;
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [pending, start] = useTransition();
  const [said, setSaid] = useState('');
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [behind, setBehind] = useState<readonly Laid[]>([]);
  const [ahead, setAhead] = useState<readonly Laid[]>([]);
  const keep = (next: Laid, then: () => void): void =>
    start(async () => {
      const change = { layout: next.layout, bleedMm: next.bleedMm, kind: next.kind };
      const done = await keeping(
        ['sheet job', job.id, change],
        (stamp) => changeSheetJob({ jobId: job.id, change }, stamp),
        job.version,
      );
      setSaid(done.ok ? '' : [done.message, ...Object.values(done.fields)].join(' '));
      if (done.ok) then();
    });
  const change = (by: Partial<Laid>): void =>
    keep({ ...laid, ...by }, () => {
      setBehind([...behind, laid]);
      setAhead([]);
    });
  const layout = (by: Partial<JobLayout>): void => change({ layout: { ...laid.layout, ...by } });
  const undo = (): void => {
    const last = behind.at(-1);
    if (last)
      keep(last, () => {
        setBehind(behind.slice(0, -1));
        setAhead([...ahead, laid]);
      });
  };
  const redo = (): void => {
    const next = ahead.at(-1);
    if (next)
      keep(next, () => {
        setAhead(ahead.slice(0, -1));
        setBehind([...behind, laid]);
      });
  };
  /** A length that was typed; said by its field when it is none. */
  const length = (field: string, text: string, take: (mm: number) => void, now: number): void => {
    const read = parseLength(text, unit);
    setErrors({ ...errors, [field]: read.ok ? '' : lengthRefusalText(read.refusal, unit) });
    if (read.ok && Math.abs(read.value - now) > 1e-6) take(read.value);
  };
  const copies = (text: string): void => {
    const number = Number(text);
    const sound = text.trim() === '' || (Number.isInteger(number) && number >= 1);
    setErrors({ ...errors, copies: sound ? '' : 'A whole number, or nothing to fill the sheet.' });
    const next = text.trim() === '' ? null : number;
    if (sound && next !== laid.layout.copies) layout({ copies: next });
  };
  return (
    <section className="panel" aria-busy={pending}>
      <h2>How it is laid out</h2>
      <div className="row g-2">
        <Typed
          id="copies"
          label="Copies"
          value={laid.layout.copies === null ? '' : String(laid.layout.copies)}
          hint="fill the sheet"
          error={errors.copies}
          disabled={!ready}
          onTyped={copies}
        />
        <Typed
          id="gap"
          label={`Gap, ${unit}`}
          value={fieldLength(laid.layout.gapMm, unit)}
          error={errors.gap}
          disabled={!ready}
          onTyped={(text) => length('gap', text, (gapMm) => layout({ gapMm }), laid.layout.gapMm)}
        />
        <Typed
          id="bleed"
          label={`Bleed, ${unit}`}
          value={fieldLength(laid.bleedMm, unit)}
          error={errors.bleed}
          disabled={!ready}
          onTyped={(text) => length('bleed', text, (bleedMm) => change({ bleedMm }), laid.bleedMm)}
        />
        <div className="col-6">
          <FormLabel htmlFor="sheet-kind">Its line is</FormLabel>
          <FormSelect
            id="sheet-kind"
            disabled={!ready}
            value={laid.kind}
            onChange={(event) => change({ kind: event.target.value as LineKind })}
          >
            {LINE_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </option>
            ))}
          </FormSelect>
        </div>
      </div>
      {neededMm !== null && (
        <p className="small-print mt-2 mb-0">
          This rig needs {lengthText(neededMm, unit)} hidden: 95 of 100 cuts stay within it.{' '}
          {laid.bleedMm > 0 && laid.bleedMm < neededMm && 'This bleed is less than that.'}
        </p>
      )}
      <Ticks layout={laid.layout} disabled={!ready} onTick={layout} />
      <div className="d-flex gap-2">
        <Button
          variant="plain"
          className="btn-small"
          disabled={pending || behind.length === 0}
          onClick={undo}
        >
          Undo
        </Button>
        <Button variant="plain" className="btn-small" disabled={pending || ahead.length === 0} onClick={redo}>
          Redo
        </Button>
      </div>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </section>
  );
}

/** What is so or not so of a layout. */
function Ticks({
  layout,
  disabled,
  onTick,
}: {
  layout: JobLayout;
  disabled: boolean;
  onTick: (by: Partial<JobLayout>) => void;
}) {
  return (
    <>
      <Tick
        id="turn"
        words="pieces may be turned"
        checked={layout.mayTurn}
        disabled={disabled}
        onTick={(mayTurn) => onTick({ mayTurn })}
      />
      <Tick
        id="centre"
        words="in the middle of the sheet"
        checked={layout.centre}
        disabled={disabled}
        onTick={(centre) => onTick({ centre })}
      />
      <Tick
        id="witness"
        words="a witness in the waste, where there is room"
        checked={layout.witness ?? false}
        disabled={disabled}
        onTick={(witness) => onTick({ witness })}
      />
    </>
  );
}

/** A field that counts once it is left, or with Enter; what was typed stays until something else is so. */
function Typed({
  id,
  label,
  value,
  hint,
  error,
  disabled,
  onTyped,
}: {
  id: string;
  label: string;
  value: string;
  hint?: string;
  error: string | undefined;
  disabled: boolean;
  onTyped: (text: string) => void;
}) {
  return (
    <div className="col-6">
      <FormLabel htmlFor={`sheet-${id}`}>{label}</FormLabel>
      <FormControl
        key={value}
        id={`sheet-${id}`}
        className="mono"
        autoComplete="off"
        disabled={disabled}
        defaultValue={value}
        placeholder={hint}
        aria-invalid={Boolean(error)}
        aria-describedby={error ? `sheet-${id}-say` : undefined}
        onBlur={(event) => onTyped(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          event.currentTarget.blur();
        }}
      />
      {error && (
        <span id={`sheet-${id}-say`} className="field-error">
          {error}
        </span>
      )}
    </div>
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
