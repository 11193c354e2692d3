'use client';

import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import { useState, useTransition } from 'react';

import { lengthRefusalText, type LengthUnit, parseLength, rateText } from '@/core/units';
import { keeping } from '@/features/forms/keeping';

import { closeTheRun, laminated, sectionIsFinished } from '../actions';
import { saying } from '../saying';

/** Cut off and weeded: how many were spoiled. */
export function FinishForm({
  runId,
  section,
  copies,
  counted,
}: {
  runId: string;
  section: number;
  copies: number;
  /** As it was counted before; null at first. */
  counted: number | null;
}) {
  const [spoiled, setSpoiled] = useState(String(counted ?? 0));
  const [open, setOpen] = useState(counted === null);
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  if (!open)
    return (
      <span className="d-inline-flex gap-2 align-items-center">
        <span className="mono">{counted}</span>
        <Button
          variant="link"
          className="p-1"
          aria-label={`Count section ${section} again`}
          onClick={() => setOpen(true)}
        >
          change
        </Button>
      </span>
    );
  return (
    <form
      className="d-flex gap-2 align-items-center"
      onSubmit={(event) => {
        event.preventDefault();
        const count = Number(spoiled.trim() === '' ? 'x' : spoiled);
        if (!Number.isInteger(count) || count < 0 || count > copies) {
          setSaid(`A whole number from 0 to ${copies}.`);
          return;
        }
        start(async () => {
          const wrong = await saying(['weeded', runId, section, count], (stamp) =>
            sectionIsFinished({ runId, section, spoiled: count }, stamp),
          );
          setSaid(wrong ?? '');
          if (wrong === undefined) setOpen(false);
        });
      }}
    >
      <FormControl
        className="mono"
        style={{ width: '3.6rem' }}
        inputMode="numeric"
        aria-label={`Spoiled in section ${section}`}
        value={spoiled}
        onChange={(event) => setSpoiled(event.target.value)}
      />
      <Button type="submit" variant="plain" disabled={pending}>
        Weeded
      </Button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}

/** Two lengths in the user's unit; a refusal is said by its field. */
function useLengths(unit: LengthUnit, initial: Readonly<Record<string, string>>) {
  const [typed, setTyped] = useState(initial);
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const read = (): Record<string, number> | null => {
    const wrong: Record<string, string> = {};
    const values: Record<string, number> = {};
    for (const [name, text] of Object.entries(typed)) {
      const parsed = parseLength(text, unit);
      if (parsed.ok) values[name] = parsed.value;
      else wrong[name] = lengthRefusalText(parsed.refusal, unit);
    }
    setErrors(wrong);
    return Object.keys(wrong).length > 0 ? null : values;
  };
  const field = (name: string, label: string) => (
    <div className="col-6">
      <FormLabel htmlFor={`length-${name}`}>
        {label}, {unit}
      </FormLabel>
      <FormControl
        id={`length-${name}`}
        className="mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed[name]}
        aria-invalid={errors[name] !== undefined}
        onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
      />
      {errors[name] && <span className="field-error">{errors[name]}</span>}
    </div>
  );
  return { read, field, setErrors };
}

/** Mark spacing measured again after laminating. */
export function LaminateForm({
  runId,
  from,
  nominal,
  bothEnds,
  unit,
}: {
  runId: string;
  from: number;
  nominal: string;
  bothEnds: boolean;
  unit: LengthUnit;
}) {
  const { read, field, setErrors } = useLengths(unit, { nominalMm: nominal, measuredMm: '' });
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      aria-label="After laminating"
      onSubmit={(event) => {
        event.preventDefault();
        const values = read();
        if (!values) return;
        start(async () => {
          const done = await keeping(['laminate', runId, from, values], (stamp) =>
            laminated({ runId, from, ...values } as never, stamp),
          );
          if (!done.ok) {
            setErrors(done.fields);
            setSaid(Object.keys(done.fields).length > 0 ? '' : done.message);
          } else {
            const share = values.measuredMm! / values.nominalMm! - 1;
            setSaid(
              `${rateText(1000 * share, unit)} ${share >= 0 ? 'longer' : 'shorter'}: put into the cut from section ${from} on.`,
            );
          }
        });
      }}
    >
      <p className="small-print">
        Measure the distance between the marks again, from section {from} on.{' '}
        {bothEnds && 'This rig reads marks at both ends and stretches the cut by itself: it is only noted.'}
      </p>
      <div className="row g-2">
        {field('nominalMm', 'As printed')}
        {field('measuredMm', 'After laminating')}
      </div>
      <div className="d-flex gap-3 align-items-center mt-2 flex-wrap">
        <Button type="submit" variant="plain" disabled={pending}>
          Put it into the cut
        </Button>
        <span role="status">{said}</span>
      </div>
    </form>
  );
}

/** Closes the run with a word and what an item costs. */
export function CloseForm({ runId, version, main }: { runId: string; version: number; main: boolean }) {
  const [note, setNote] = useState('');
  const [cost, setCost] = useState('');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      aria-label="Close the run"
      onSubmit={(event) => {
        event.preventDefault();
        const costPerItem = cost.trim() === '' ? null : Number(cost.replace(',', '.'));
        if (costPerItem !== null && !Number.isFinite(costPerItem)) {
          setSaid('The cost of an item is a number, for example 0.80; or leave it empty.');
          return;
        }
        start(async () => {
          const input = { runId, note, costPerItem };
          const wrong = await saying(['close', input], (stamp) => closeTheRun(input, stamp), version);
          setSaid(wrong ?? '');
        });
      }}
    >
      <div className="row g-2">
        <div className="col-8">
          <FormLabel htmlFor="close-note">A word for the log</FormLabel>
          <FormControl
            id="close-note"
            value={note}
            maxLength={400}
            onChange={(event) => setNote(event.target.value)}
          />
        </div>
        <div className="col-4">
          <FormLabel htmlFor="close-cost">An item costs</FormLabel>
          <FormControl
            id="close-cost"
            className="mono"
            inputMode="decimal"
            value={cost}
            onChange={(event) => setCost(event.target.value)}
          />
        </div>
      </div>
      <Button type="submit" variant={main ? 'main' : 'plain'} className="mt-2 w-100" disabled={pending}>
        Close the run
      </Button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}
