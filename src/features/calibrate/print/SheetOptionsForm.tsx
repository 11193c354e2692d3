'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import type { Rect } from '@/core/geometry';
import { COMB_STEPS, READ_BY, RING_STEPS, ringChoice, stationsThatFit, type ReadBy } from '@/core/proof';
import { toMm, type LengthUnit } from '@/core/units';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { layOutSheet } from '../actions';

interface Options {
  readonly columns: number;
  readonly rows: number;
  readonly secondSet: boolean;
  readonly unit: LengthUnit;
  readonly step: number;
  readonly ringStep: number | null;
  readonly bothWays: boolean;
  readonly readBy: ReadBy;
}

const WAYS: Readonly<Record<ReadBy, string>> = {
  comb: 'the combs',
  rings: 'rings: the even one of a row',
  gaps: 'gaps round a shape, by rule or loupe',
  lengths: 'long lengths, by rule or tape',
  table: 'a table from elsewhere',
};

/** Another layout for a sheet that has not been printed. Every change lays it out anew. */
export function SheetOptionsForm({
  session,
  unit,
  current,
  area,
}: {
  session: { readonly id: string; readonly version: number };
  unit: LengthUnit;
  current: Options;
  /** What is free for stations, mm. */
  area: Rect;
}) {
  const [chosen, setChosen] = useState(current);
  const [message, setMessage] = useState('');
  const [pending, start] = useTransition();
  const change = (by: Partial<Options>): void => {
    const asked = { ...chosen, ...by };
    const most = fitsOf(asked, area);
    // What takes more room leaves fewer stations; never less than one, so that what is too much is said.
    const next = {
      ...asked,
      columns: Math.max(1, Math.min(asked.columns, most.columns)),
      rows: Math.max(1, Math.min(asked.rows, most.rows)),
    };
    setChosen(next);
    start(async () => {
      const done = await keeping(
        ['layout', session.id, next],
        (stamp) => layOutSheet({ sessionId: session.id, options: next }, stamp),
        session.version,
      );
      setMessage(done.ok ? '' : whyNotDone(done));
    });
  };
  const fits = fitsOf(chosen, area);
  const count = (most: number): number[] => Array.from({ length: Math.max(most, 1) }, (_, i) => i + 1);
  return (
    <section className="panel" aria-busy={pending}>
      <h2>Another layout</h2>
      <div className="row g-2">
        <div className="col-4">
          <FormLabel htmlFor="columns">Columns</FormLabel>
          <FormSelect
            id="columns"
            value={chosen.columns}
            onChange={(e) => change({ columns: Number(e.target.value) })}
          >
            {count(Math.max(fits.columns, chosen.columns)).map((n) => (
              <option key={n}>{n}</option>
            ))}
          </FormSelect>
        </div>
        <div className="col-4">
          <FormLabel htmlFor="rows">Rows</FormLabel>
          <FormSelect
            id="rows"
            value={chosen.rows}
            onChange={(e) => change({ rows: Number(e.target.value) })}
          >
            {count(Math.max(fits.rows, chosen.rows)).map((n) => (
              <option key={n}>{n}</option>
            ))}
          </FormSelect>
        </div>
        <div className="col-4">
          <FormLabel htmlFor="step">Comb step</FormLabel>
          <FormSelect
            id="step"
            value={`${chosen.unit} ${chosen.step}`}
            onChange={(e) => {
              const [name, step] = e.target.value.split(' ');
              // Steps of rings go with the unit of the labels.
              change({
                unit: name as LengthUnit,
                step: Number(step),
                ...(name !== chosen.unit && withRings(null, chosen)),
              });
            }}
          >
            {(unit === 'mm' ? (['mm', 'in'] as const) : (['in', 'mm'] as const)).flatMap((name) =>
              COMB_STEPS[name].map((step) => (
                <option key={`${name} ${step}`} value={`${name} ${step}`}>
                  {step} {name}
                </option>
              )),
            )}
          </FormSelect>
        </div>
      </div>
      <div className="form-check mt-2 d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
        <FormCheckInput
          id="second"
          type="checkbox"
          className="mt-0"
          checked={chosen.secondSet}
          onChange={(e) => change({ secondSet: e.target.checked })}
        />
        <label htmlFor="second">a second set, to prove it on the same sheet</label>
      </div>
      <div className="form-check mt-2 d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
        <FormCheckInput
          id="bothWays"
          type="checkbox"
          className="mt-0"
          checked={chosen.bothWays}
          onChange={(e) => change({ bothWays: e.target.checked })}
        />
        <label htmlFor="bothWays">every other station cut from the other side, to tell backlash</label>
      </div>
      {chosen.bothWays && (
        <span className="small-print">
          The cutter has to cut in the order of the file: turn off whatever sorts paths in its program.
        </span>
      )}
      <HowItIsRead chosen={chosen} change={change} />
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </section>
  );
}

/** The way that Read opens with, and the rings that some ways want. */
function HowItIsRead({ chosen, change }: { chosen: Options; change: (by: Partial<Options>) => void }) {
  return (
    <>
      <div className="mt-2">
        <FormLabel htmlFor="readBy">It is read by</FormLabel>
        <FormSelect
          id="readBy"
          value={chosen.readBy}
          onChange={(e) => change(readingBy(e.target.value as ReadBy, chosen))}
        >
          {READ_BY.map((way) => (
            <option key={way} value={way}>
              {WAYS[way]}
            </option>
          ))}
        </FormSelect>
        <span className="small-print">
          What Read opens with, this time and the next; any other way is still there.
        </span>
      </div>
      <div className="mt-2">
        <FormLabel htmlFor="rings">Rings beside the combs</FormLabel>
        <FormSelect
          id="rings"
          value={chosen.ringStep ?? ''}
          onChange={(e) => change(withRings(e.target.value === '' ? null : Number(e.target.value), chosen))}
        >
          <option value="">none</option>
          {RING_STEPS[chosen.unit].map((step) => (
            <option key={step} value={step}>
              {`nine, ${step} ${chosen.unit} apart: reach ± ${Number((4 * step).toFixed(3))} ${chosen.unit}`}
            </option>
          ))}
        </FormSelect>
        <span className="small-print">
          Weed the row in one pull; the ring that is even all round says the offset.
        </span>
      </div>
    </>
  );
}

/** Read by rings there have to be some; without rings nothing is read by them. */
const readingBy = (readBy: ReadBy, { ringStep, unit }: Options): Partial<Options> => ({
  readBy,
  ringStep: readBy === 'rings' ? (ringStep ?? RING_STEPS[unit][0]!) : ringStep,
});
const withRings = (ringStep: number | null, { readBy }: Options): Partial<Options> => ({
  ringStep,
  readBy: ringStep === null && readBy === 'rings' ? 'comb' : readBy,
});

const fitsOf = ({ step, unit, secondSet, ringStep }: Options, area: Rect) =>
  stationsThatFit(area, toMm(step, unit), secondSet, ringStep === null ? null : ringChoice(ringStep, unit));
