'use client';

import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition, type ReactNode } from 'react';

import type { Rect } from '@/core/geometry';
import { COMB_STEPS, RING_STEPS, ringChoice, stationsThatFit, type ReadBy } from '@/core/proof';
import { toMm, type LengthUnit } from '@/core/units';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { layOutSheet } from '../actions';
import { Fold } from '@/ui/Fold';

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

/** What there is to choose from beside short and full, with what each leaves unseen. */
const OTHER_WAYS = {
  rings: 'rings: the even one of a row',
  gaps: 'gaps round a shape, by rule or loupe',
  lengths: 'long lengths, by rule or tape: no shift',
  table: 'a table from elsewhere',
} as const;
const isOther = (way: ReadBy): way is keyof typeof OTHER_WAYS => way in OTHER_WAYS;

/** How much a sheet that has not been printed is to tell, what is done with it, and its layout. Every change lays it out anew. */
export function SheetOptionsForm({
  session,
  unit,
  current,
  area,
  children,
}: {
  session: { readonly id: string; readonly version: number };
  unit: LengthUnit;
  current: Options;
  /** What is free for stations, mm. */
  area: Rect;
  /** What is done with the sheet. */
  children: ReactNode;
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
    <div className="stack" aria-busy={pending}>
      <HowMuch chosen={chosen} change={change} />
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
      {children}
      {chosen.readBy !== 'short' && (
        <Fold
          name="layout"
          words="Another layout"
          usual={`${chosen.columns} × ${chosen.rows}, ${chosen.step} ${chosen.unit}`}
        >
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
          <Rings chosen={chosen} change={change} />
        </Fold>
      )}
    </div>
  );
}

/** The one choice: how much do you want to know? */
function HowMuch({ chosen, change }: { chosen: Options; change: (by: Partial<Options>) => void }) {
  const cards = [
    ['short', 'Short', 'two picks: the shift', 'turn, size, lean unseen'],
    ['comb', 'Full', 'every term, proved', 'next loads unseen'],
  ] as const;
  return (
    <fieldset className="how-much">
      <legend>How much do you want to know?</legend>
      {cards.map(([way, name, tells, unseen]) => (
        <label key={way} className={chosen.readBy === way ? 'card-choice chosen' : 'card-choice'}>
          <FormCheckInput
            type="radio"
            name="how-much"
            className="mt-0"
            checked={chosen.readBy === way}
            onChange={() => change(readingBy(way, chosen))}
          />
          <span>
            <strong>{name}</strong>
            <br />
            {tells}
            <br />
            <span className="soft">{unseen}</span>
          </span>
        </label>
      ))}
      <Fold
        name="read-by"
        words="Another way"
        usual={isOther(chosen.readBy) ? OTHER_WAYS[chosen.readBy] : 'rings, gaps, lengths'}
        open={isOther(chosen.readBy)}
      >
        <FormLabel htmlFor="readBy">It is read by</FormLabel>
        <FormSelect
          id="readBy"
          value={isOther(chosen.readBy) ? chosen.readBy : ''}
          onChange={(e) => change(readingBy((e.target.value || 'comb') as ReadBy, chosen))}
        >
          <option value="">the combs</option>
          {Object.entries(OTHER_WAYS).map(([way, words]) => (
            <option key={way} value={way}>
              {words}
            </option>
          ))}
        </FormSelect>
      </Fold>
    </fieldset>
  );
}

/** Rings beside the combs. */
function Rings({ chosen, change }: { chosen: Options; change: (by: Partial<Options>) => void }) {
  return (
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
  );
}

/** Read by rings there have to be some; without rings nothing is read by them. */
const readingBy = (readBy: ReadBy, { ringStep, unit, readBy: before }: Options): Partial<Options> => ({
  readBy,
  ringStep: readBy === 'short' ? null : readBy === 'rings' ? (ringStep ?? RING_STEPS[unit][0]!) : ringStep,
  // From a short sheet to a whole one: as many stations as usual, or as fit.
  ...(before === 'short' && readBy !== 'short' ? { columns: 3, rows: 3, secondSet: true } : {}),
});
const withRings = (ringStep: number | null, { readBy }: Options): Partial<Options> => ({
  ringStep,
  readBy: ringStep === null && readBy === 'rings' ? 'comb' : readBy,
});

const fitsOf = ({ step, unit, secondSet, ringStep }: Options, area: Rect) =>
  stationsThatFit(area, toMm(step, unit), secondSet, ringStep === null ? null : ringChoice(ringStep, unit));
