'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';

import type { Feature, KeptLength } from '@/core/readings';
import type { LengthUnit } from '@/core/units';
import { Choice, Field, KeptForm } from '@/features/forms/kit/Fields';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';
import { newNumber } from '@/features/forms/keeping';
import { DataTable, ears } from '@/ui/tables/DataTable';

import { keepLength, takeBackLength } from '../actions';
import { LENGTH_LABELS, lengthDoubts, lengthReaders, lengthsView, noLength, sameEnds } from './lengths.view';

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
  const view = lengthsView(stations, kept, unit);
  const ids = stations.map(({ id }) => id);
  const ends = [['', 'choose'] as const, ...ids];
  const form = useKeptForm({
    ...{ unit, what: ['length', passId], done: '' },
    initial: noLength(view.next, unit),
    readers: lengthReaders,
    wrong: sameEnds,
    judge: (values, typed) => lengthDoubts(stations, values, typed, unit),
    send: (read, stamp) => keepLength({ passId, ...read }, stamp),
    after: ({ resolutionMm }, read) => ({
      ...noLength(lengthsView(stations, [...kept, read], unit).next, unit),
      resolutionMm,
    }),
  });
  return (
    <section className="stack mt-4">
      <h2 className="mb-0">Long lengths</h2>
      <p className="small-print mb-0">
        From disc to disc, middle to middle, on the print and on the cut; the same edge of both does as well.
        Sides tell the scales, both diagonals the lean.
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
      <KeptForm form={form} words="Keep this length">
        <div className="row g-2" style={{ maxWidth: '44rem' }}>
          <Choice form={form} id="length-from" name="from" label="From station" options={ends} />
          <Choice form={form} id="length-to" name="to" label="To station" options={ends} />
          {(['printMm', 'cutMm', 'resolutionMm'] as const).map((name) => (
            <Field
              key={name}
              {...{ form, name, id: `length-${name}`, label: `${LENGTH_LABELS[name]}, ${unit}` }}
              {...(name === 'printMm' ? { placeholder: 'as drawn, if left out' } : {})}
              width="col-6 col-md-4"
              figures="fractions"
            />
          ))}
        </div>
      </KeptForm>
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
