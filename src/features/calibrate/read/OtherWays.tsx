'use client';

import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { KeptLength, OtherReading } from '@/core/calibration';
import type { Feature } from '@/core/schools';
import type { LengthUnit } from '@/core/units';
import { keeping, newNumber } from '@/features/forms/keeping';
import { Rows } from '@/ui/Rows';
import { useHydrated } from '@/ui/useHydrated';
import { useLater } from '@/ui/useLater';

import { keepGaps, keepOwnGaps, keepTable, takeBackReading } from '../actions';
import {
  gapFields,
  GAP_LABELS,
  noGaps,
  otherRows,
  readGapTexts,
  type GapField,
  type GapTexts,
  type OtherRow,
} from './otherWays.view';

/** With its sums: fetched once the page can be seen. */
const loadLengths = () => import('./Lengths');

/** Gaps measured round any shape, and tables from elsewhere: they count beside the combs. */
export function OtherWays({
  passId,
  list,
  wanted,
  stations,
  lengths,
  shapes,
  any,
  unit,
}: {
  passId: string;
  list: readonly OtherReading[];
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
  const rows = otherRows(list, unit);
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
        if (!done.ok) return setMessage(done.message);
      }
      setMessage('');
    });
  return (
    <>
      <Rows label="Read another way" className="mt-2">
        <thead>
          <tr>
            <th scope="col">place</th>
            <th scope="col">how</th>
            <th scope="col">where</th>
            <th scope="col">the cut lies</th>
            <th scope="col">sure to</th>
            <th scope="col">
              <span className="visually-hidden">take back</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              <th scope="row">{row.id}</th>
              <td>{row.how}</td>
              <td>{row.where}</td>
              <td>{row.says}</td>
              <td>{row.sure}</td>
              <td>
                <Button
                  variant="plain"
                  disabled={pending}
                  aria-label={`Take ${row.id} back`}
                  onClick={() => takeBack(row)}
                >
                  Take back
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Rows>
      {message && <span className="field-error">{message}</span>}
    </>
  );
}

/** A shape of the sheet's own, and whether it was read. */
interface OwnShape {
  readonly id: string;
  readonly read: boolean;
}

function GapsForm({
  passId,
  shapes,
  unit,
}: {
  passId: string;
  shapes: readonly OwnShape[];
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [chosen, setChosen] = useState<string | null>(null);
  // The first of the sheet's own that was not read, unless somebody chose.
  const own = chosen ?? (shapes.find((s) => !s.read) ?? shapes[0])?.id ?? '';
  const [texts, setTexts] = useState<GapTexts>(() => noGaps(unit));
  const [errors, setErrors] = useState<Readonly<Partial<Record<GapField, string>>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const save = (): void => {
    const read = readGapTexts(texts, unit, own !== '');
    setErrors(read.ok ? {} : read.errors);
    setSaid('');
    if (!read.ok) return;
    start(async () => {
      const { gaps, resolutionMm } = read.value;
      const done = await keeping(['gaps', passId, own, read.value], (stamp) =>
        own
          ? keepOwnGaps({ passId, stationId: own, gaps, resolutionMm }, stamp)
          : keepGaps({ passId, ...read.value }, stamp),
      );
      if (!done.ok) return setSaid([done.message, ...Object.values(done.fields)].join(' '));
      // The border and the ruler stay; the next shape is elsewhere.
      setTexts({ ...noGaps(unit), nominal: texts.nominal, resolution: texts.resolution });
      if (own) setChosen(null);
      setSaid(done.value.doubts.map((d) => d.message).join(' '));
    });
  };
  return (
    <form
      className="stack"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <h2 className="mb-0">Gaps round a shape</h2>
      <p className="small-print mb-0">
        From the printed edge to the cut, on each side of one shape: plus where the cut lies outside the
        print, minus where it runs inside. Fractions of an inch work too.
      </p>
      {shapes.length > 0 && (
        <div>
          <FormLabel htmlFor="gap-shape">Shape</FormLabel>
          <FormSelect
            id="gap-shape"
            disabled={!ready}
            value={own}
            onChange={(event) => setChosen(event.target.value)}
          >
            {shapes.map((s) => (
              <option key={s.id} value={s.id}>
                {`the block of ${s.id}${s.read ? ', read' : ''}`}
              </option>
            ))}
            <option value="">another shape</option>
          </FormSelect>
          {own && (
            <span className="small-print">
              Its borders differ from side to side on purpose, so that no two round alike: type what you
              measure.
            </span>
          )}
        </div>
      )}
      <div className="row g-2">
        {gapFields(own !== '').map((field) => (
          <div className="col-6" key={field}>
            <FormLabel htmlFor={`gap-${field}`}>
              {GAP_LABELS[field]}, {unit}
            </FormLabel>
            <FormControl
              id={`gap-${field}`}
              className="mono"
              inputMode="text"
              autoComplete="off"
              disabled={!ready}
              value={texts[field]}
              aria-invalid={errors[field] !== undefined}
              aria-describedby={errors[field] ? `gap-${field}-say` : undefined}
              onChange={(event) => setTexts({ ...texts, [field]: event.target.value })}
            />
            {errors[field] && (
              <span id={`gap-${field}-say`} className="field-error">
                {errors[field]}
              </span>
            )}
          </div>
        ))}
      </div>
      <div>
        <Button type="submit" variant="plain" disabled={!ready || pending}>
          Keep these gaps
        </Button>
      </div>
      <p className={said ? 'notice mb-0' : 'visually-hidden'} role="status">
        {said}
      </p>
    </form>
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
      const done = await keeping(['table', passId, csv], (stamp) => keepTable({ passId, csv, unit }, stamp));
      if (!done.ok) return setError(done.fields.csv ?? done.message);
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
        Paste rows with headings: x, y (where on the sheet), dx, dy (where the cut landed less where the print
        is; plus is right and further), and u if you know it. Without units in the headings they are {unit}.
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
