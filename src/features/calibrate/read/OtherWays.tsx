'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import type { Feature, KeptLength } from '@/core/readings';
import type { LengthUnit } from '@/core/units';
import { keeping, newNumber, whyNotDone } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';
import { useLater } from '@/ui/useLater';
import { DataTable, ears } from '@/ui/tables/DataTable';

import { keepOther, takeBackReading } from '../actions';
import { GapsForm, type OwnShape } from './GapsForm';
import type { OtherRow } from './otherWays.view';

/** With its sums: fetched once the page can be seen. */
const loadLengths = () => import('./Lengths');

/** Gaps measured round any shape, and tables from elsewhere: they count beside the combs. */
export function OtherWays({
  passId,
  rows,
  wanted,
  stations,
  lengths,
  shapes,
  any,
  unit,
}: {
  passId: string;
  rows: readonly OtherRow[];
  /** The combs do not reach: it is opened. */
  wanted: boolean;
  stations: readonly Feature[];
  lengths: readonly (KeptLength & { readonly id: string })[];
  /** Stations with a shape for gaps of their own. */
  shapes: readonly OwnShape[];
  /** Something of this set was read, by whichever way. */
  any: boolean;
  unit: LengthUnit;
}) {
  const part = useLater(loadLengths);
  return (
    <details className="panel mt-3" open={rows.length + lengths.length > 0 || wanted}>
      <summary>
        Read it another way: gaps round a shape, long lengths, or a table
        {rows.length > 0 && ` (${rows.length} ${rows.length === 1 ? 'place' : 'places'} read so)`}
      </summary>
      {rows.length > 0 && <KeptOthers passId={passId} rows={rows} />}
      {any && (
        <a className="btn btn-plain mt-2" href={`/api/passes/${passId}/table`}>
          What was read, as a table
        </a>
      )}
      <div className="two mt-3">
        <GapsForm passId={passId} shapes={shapes} unit={unit} />
        <TableForm passId={passId} unit={unit} />
      </div>
      {stations.length > 1 &&
        (part ? (
          <part.Lengths passId={passId} stations={stations} kept={lengths} unit={unit} />
        ) : (
          <p className="soft mt-3 mb-0">Adding up …</p>
        ))}
    </details>
  );
}

function KeptOthers({ passId, rows }: { passId: string; rows: readonly OtherRow[] }) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const takeBack = (row: OtherRow): void =>
    start(async () => {
      for (const axis of row.axes) {
        const comb = { stationId: row.id, axis };
        const done = await takeBackReading({ passId, comb }, { request: newNumber() });
        if (!done.ok) return setMessage(whyNotDone(done));
      }
      setMessage('');
    });
  return (
    <>
      <DataTable
        label="Read another way"
        className="mt-2"
        rows={rows}
        keyOf={(row) => row.id}
        columns={[
          ['place', (row) => row.id, 'row'],
          ['how', (row) => row.how],
          ['where', (row) => row.where],
          ['the cut lies', (row) => row.says],
          ['sure to', (row) => row.sure],
          [
            ears('take back'),
            (row) => (
              <Button
                variant="plain"
                disabled={pending}
                aria-label={`Take ${row.id} back`}
                onClick={() => takeBack(row)}
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

function TableForm({ passId, unit }: { passId: string; unit: LengthUnit }) {
  const ready = useHydrated();
  const [csv, setCsv] = useState('');
  const [error, setError] = useState('');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const save = (): void =>
    start(async () => {
      setSaid('');
      const done = await keeping(['table', passId, csv], (stamp) =>
        keepOther({ way: 'table', passId, csv, unit }, stamp),
      );
      if (!done.ok) return setError(whyNotDone(done));
      setError('');
      setCsv('');
      const { kept, doubts } = done.value;
      setSaid(
        [
          `${kept} ${kept === 1 ? 'place' : 'places'} kept.`,
          ...doubts.slice(0, 5).map((d) => d.message),
        ].join(' '),
      );
    });
  return (
    <form
      className="stack"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <h2 className="mb-0">A table</h2>
      <p className="small-print mb-0">
        Paste rows with headings: x, y (where on the sheet), dx, dy, and u if you know it. dx and dy: cut less
        print, plus is right and further. Without units in the headings they are {unit}.
      </p>
      <div>
        <FormLabel htmlFor="table-csv">Rows from a spreadsheet or CSV</FormLabel>
        <FormControl
          as="textarea"
          id="table-csv"
          className="mono"
          rows={6}
          spellCheck={false}
          disabled={!ready}
          placeholder={'id, x (mm), y (mm), dx (mm), dy (mm)\n1, 40, 60, 0.15, -0.05'}
          value={csv}
          aria-invalid={error !== ''}
          aria-describedby={error ? 'table-csv-say' : undefined}
          onChange={(event) => setCsv(event.target.value)}
        />
        {error && (
          <span id="table-csv-say" className="field-error">
            {error}
          </span>
        )}
      </div>
      <div>
        <Button type="submit" variant="plain" disabled={!ready || pending || csv.trim() === ''}>
          Keep this table
        </Button>
      </div>
      <p className={said ? 'small-print mb-0' : 'visually-hidden'} role="status">
        {said}
      </p>
    </form>
  );
}
