'use client';

import Button from 'react-bootstrap/Button';
import { useState, useTransition } from 'react';

import type { Assessment } from '@/core/calibration';
import { fixed, lengthText, type LengthUnit, type OffsetAxis } from '@/core/units';

import type { SessionState } from '@/server/sessions/session';

import { keeping, whyNotDone } from '@/features/forms/keeping';

import { decideOn } from '../actions';
import { shiftWords } from '../sentences';

interface ReadingName {
  readonly stationId: string;
  readonly axis: OffsetAxis;
}

const nameOf = (r: ReadingName): string => `${r.stationId} ${r.axis}`;

/** Readings that do not go with the others: the answer with and without them, and the operator's decision. */
export function SuspectPanel({
  session,
  all,
  without,
  suspects,
  aside,
  unit,
}: {
  session: SessionState;
  all: Assessment;
  without: Assessment | null;
  suspects: readonly ReadingName[];
  aside: readonly ReadingName[];
  unit: LengthUnit;
}) {
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const decide = (which: readonly ReadingName[], out: boolean): void =>
    start(async () => {
      const names = which.map(({ stationId, axis }) => ({ stationId, axis }));
      const input = { sessionId: session.id, which: [...names], aside: out };
      const result = await keeping(['decide', input], (stamp) => decideOn(input, stamp), session.version);
      setMessage(result.ok ? '' : whyNotDone(result));
    });
  return (
    <section className="panel">
      <h2>Look again</h2>
      {suspects.length > 0 && (
        <>
          <p>
            {suspects.map(nameOf).join(', ')} {suspects.length > 1 ? 'do' : 'does'} not go with the other
            readings. Look at {suspects.length > 1 ? 'them' : 'it'} once more, or leave{' '}
            {suspects.length > 1 ? 'them' : 'it'} out.
          </p>
          {without && <WithAndWithout all={all} without={without} unit={unit} />}
          <Button variant="plain" className="w-100" disabled={pending} onClick={() => decide(suspects, true)}>
            Leave {suspects.map(nameOf).join(', ')} out
          </Button>
        </>
      )}
      {aside.length > 0 && (
        <>
          <p className="mt-2">Left out, kept in the log: {aside.map(nameOf).join(', ')}.</p>
          <Button variant="plain" className="w-100" disabled={pending} onClick={() => decide(aside, false)}>
            Count {aside.length > 1 ? 'them' : 'it'} again
          </Button>
        </>
      )}
      {message && (
        <span className="field-error" role="alert">
          {message}
        </span>
      )}
    </section>
  );
}

function WithAndWithout({ all, without, unit }: { all: Assessment; without: Assessment; unit: LengthUnit }) {
  const noise = (a: Assessment): string => lengthText(a.readingNoiseMm * a.fit.noise.factor, unit);
  const rows = [
    [
      'the cut lands',
      shiftWords(all.fit.field.exMm, all.fit.field.eyMm, unit),
      shiftWords(without.fit.field.exMm, without.fit.field.eyMm, unit),
    ],
    ['95 of 100 within', lengthText(all.r95Mm, unit), lengthText(without.r95Mm, unit)],
    ['reading noise', noise(all), noise(without)],
    ['χ² a degree of freedom', perDof(all), perDof(without)],
  ] as const;
  return (
    <table className="rows rows-tight mb-3">
      <thead>
        <tr>
          <th scope="col">
            <span className="visually-hidden">what</span>
          </th>
          <th scope="col">with</th>
          <th scope="col">without</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([what, withThem, withoutThem]) => (
          <tr key={what}>
            <th scope="row">{what}</th>
            <td>{withThem}</td>
            <td>{withoutThem}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const perDof = (a: Assessment): string => (a.fit.dof > 0 ? fixed(a.fit.chi2 / a.fit.dof, 1) : '');
