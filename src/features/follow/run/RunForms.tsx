'use client';

import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import { useState } from 'react';

import { type LengthUnit, rateText } from '@/core/units';
import { doubts } from '@/features/forms/kit/doubts';
import { Field, KeptForm } from '@/features/forms/kit/Fields';
import { figureOrNone, length, plainWords, whole } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';

import { closeTheRun, laminated, sectionIsFinished } from '../actions';

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
  const [open, setOpen] = useState(counted === null);
  const form = useKeptForm({
    ...{ what: ['weeded', runId, section], done: '' },
    initial: { spoiled: String(counted ?? 0) },
    readers: { spoiled: whole(0, copies, `A whole number from 0 to ${copies}.`) },
    after: (typed) => typed,
    send: ({ spoiled }, stamp) => sectionIsFinished({ runId, section, spoiled }, stamp),
    onKept: () => setOpen(false),
  });
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
        form.submit();
      }}
    >
      <FormControl
        className="mono"
        style={{ width: '3.6rem' }}
        inputMode="numeric"
        aria-label={`Spoiled in section ${section}`}
        value={form.typed.spoiled}
        onChange={(event) => form.set('spoiled', event.target.value)}
      />
      <Button type="submit" variant="plain" disabled={form.pending}>
        Weeded
      </Button>
      {(form.errors.spoiled ?? form.said) && (
        <span className="field-error" role="alert">
          {form.errors.spoiled ?? form.said}
        </span>
      )}
    </form>
  );
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
  const form = useKeptForm({
    ...{ unit, what: ['laminate', runId, from] },
    initial: { nominalMm: nominal, measuredMm: '' },
    readers: { nominalMm: length, measuredMm: length },
    judge: ({ nominalMm, measuredMm }, typed) =>
      doubts('measuredMm', typed.measuredMm, 'known length', measuredMm, { nominalMm }, unit),
    send: (lengths, stamp) => laminated({ runId, from, ...lengths }, stamp),
    done: ({ nominalMm, measuredMm }) => {
      const share = measuredMm / nominalMm - 1;
      return `${rateText(1000 * share, unit)} ${share >= 0 ? 'longer' : 'shorter'}: put into the cut from section ${from} on.`;
    },
    after: (typed) => typed,
  });
  return (
    <KeptForm form={form} label="After laminating" words="Put it into the cut">
      <p className="small-print">
        Measure the distance between the marks again, from section {from} on.{' '}
        {bothEnds && 'This rig reads marks at both ends and stretches the cut by itself: it is only noted.'}
      </p>
      <div className="row g-2">
        <Field form={form} id="length-nominalMm" name="nominalMm" label={`As printed, ${unit}`} figures />
        <Field
          {...{ form, id: 'length-measuredMm', name: 'measuredMm', label: `After laminating, ${unit}` }}
          figures
        />
      </div>
    </KeptForm>
  );
}

/** Closes the run with a word and what an item costs. */
export function CloseForm({ runId, version, main }: { runId: string; version: number; main: boolean }) {
  const form = useKeptForm({
    ...{ what: ['close', runId], done: '', version },
    initial: { note: '', costPerItem: '' },
    readers: {
      note: plainWords,
      costPerItem: figureOrNone('The cost of an item is a number, for example 0.80; or leave it empty.'),
    },
    send: (input, stamp) => closeTheRun({ runId, ...input }, stamp),
  });
  return (
    <KeptForm form={form} label="Close the run" words="Close the run" main={main}>
      <div className="row g-2">
        <Field
          {...{ form, id: 'close-note', name: 'note', label: 'A word for the log', width: 'col-8' }}
          maxLength={400}
        />
        <Field
          {...{ form, id: 'close-cost', name: 'costPerItem', label: 'An item costs', width: 'col-4' }}
          figures
        />
      </div>
    </KeptForm>
  );
}
