'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { Feature, KeptLength } from '@/core/readings';
import type { LengthUnit } from '@/core/units';
import { keeping, newNumber } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';
import { DataTable, ears } from '@/ui/tables/DataTable';

import { keepLength, takeBackLength } from '../actions';
import {
  LENGTH_FIELDS,
  LENGTH_LABELS,
  lengthsView,
  noLength,
  readLengthTexts,
  type LengthTexts,
} from './lengths.view';

/** Long lengths between stations, by ruler or tape: they sharpen scales and lean beside whatever else was read. */
export function Lengths({
  passId,
  stations,
  kept,
  unit,
}: {
  passId: string;
  stations: readonly Feature[];
  kept: readonly (KeptLength & { readonly id: string })[];
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const view = lengthsView(stations, kept, unit);
  const [texts, setTexts] = useState<LengthTexts>(() => noLength(view.next, unit));
  const [errors, setErrors] = useState<Readonly<Partial<Record<keyof LengthTexts, string>>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const save = (): void => {
    const read = readLengthTexts(texts, unit);
    setErrors(read.ok ? {} : read.errors);
    setSaid('');
    if (!read.ok) return;
    start(async () => {
      const done = await keeping(['length', passId, read.value], (stamp) =>
        keepLength({ passId, ...read.value }, stamp),
      );
      if (!done.ok) {
        const { printMm: print, cutMm: cut, resolutionMm: resolution, to } = done.fields;
        setErrors({
          ...(print && { print }),
          ...(cut && { cut }),
          ...(resolution && { resolution }),
          ...(to && { to }),
        });
        return setSaid((print ?? cut ?? resolution ?? to) ? '' : done.message);
      }
      const { next } = lengthsView(stations, [...kept, read.value], unit);
      setTexts({ ...noLength(next, unit), resolution: texts.resolution });
    });
  };
  const end = (field: 'from' | 'to', label: string) => (
    <div className="col-6">
      <FormLabel htmlFor={`length-${field}`}>{label}</FormLabel>
      <FormSelect
        id={`length-${field}`}
        disabled={!ready}
        value={texts[field]}
        aria-invalid={errors[field] !== undefined}
        onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
      >
        <option value="">choose</option>
        {stations.map(({ id }) => (
          <option key={id}>{id}</option>
        ))}
      </FormSelect>
      {errors[field] && <span className="field-error">{errors[field]}</span>}
    </div>
  );
  return (
    <section className="stack mt-4">
      <h2 className="mb-0">Long lengths</h2>
      <p className="small-print mb-0">
        From the middle of one station’s disc to the middle of another’s, on the print and on the cut: the
        same edge of both does as well. Sides tell the scales, both diagonals the lean.
      </p>
      {view.rows.length > 0 && <KeptLengths passId={passId} kept={kept} rows={view.rows} />}
      <p className={view.says ? 'mb-0' : 'visually-hidden'} role="status">
        {view.says} {view.trusts}
      </p>
      {view.next && (
        <p className="mb-0">
          Measure next: <strong>{view.next.from}</strong> to <strong>{view.next.to}</strong>
          {view.rows.length > 0 && view.says.startsWith('By') ? ', it would sharpen this most.' : '.'}
        </p>
      )}
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className="row g-2" style={{ maxWidth: '44rem' }}>
          {end('from', 'From station')}
          {end('to', 'To station')}
          {LENGTH_FIELDS.map((field) => (
            <div className="col-6 col-md-4" key={field}>
              <FormLabel htmlFor={`length-${field}`}>
                {LENGTH_LABELS[field]}, {unit}
              </FormLabel>
              <FormControl
                id={`length-${field}`}
                className="mono"
                inputMode="text"
                autoComplete="off"
                disabled={!ready}
                placeholder={field === 'print' ? 'as drawn, if left out' : undefined}
                value={texts[field]}
                aria-invalid={errors[field] !== undefined}
                aria-describedby={errors[field] ? `length-${field}-say` : undefined}
                onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
              />
              {errors[field] && (
                <span id={`length-${field}-say`} className="field-error">
                  {errors[field]}
                </span>
              )}
            </div>
          ))}
        </div>
        <Button type="submit" variant="plain" className="mt-2" disabled={!ready || pending}>
          Keep this length
        </Button>
      </form>
      {said && <p className="notice mb-0">{said}</p>}
    </section>
  );
}

function KeptLengths({
  passId,
  kept,
  rows,
}: {
  passId: string;
  kept: readonly { readonly id: string }[];
  rows: ReturnType<typeof lengthsView>['rows'];
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const takeBack = (lengthId: string): void =>
    start(async () => {
      const done = await takeBackLength({ passId, lengthId }, { request: newNumber() });
      setMessage(done.ok ? '' : done.message);
    });
  return (
    <>
      <DataTable
        label="Long lengths"
        rows={rows}
        keyOf={(_, i) => kept[i]!.id}
        columns={[
          ['stations', (row) => row.name, 'row'],
          ['printed', (row) => row.print, 'num'],
          ['cut', (row) => row.cut, 'num'],
          ['read to', (row) => row.sure, 'num'],
          [
            ears('take back'),
            (row, i) => (
              <Button
                variant="plain"
                disabled={pending}
                aria-label={`Take the length ${row.name} back`}
                onClick={() => takeBack(kept[i]!.id)}
              >
                Take back
              </Button>
            ),
          ],
        ]}
      />
      {message && <span className="field-error">{message}</span>}
    </>
  );
}
