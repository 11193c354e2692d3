'use client';

import { signedLengthFigure, type LengthUnit } from '@/core/units';
import { Rows } from '@/ui/Rows';

/** One reading as it was entered, in as few words as it can be told: a session has hundreds. */
export interface EnteredReading {
  readonly id: string;
  readonly pass: number;
  readonly sheet: string;
  readonly station: string;
  readonly axis: string;
  readonly offsetMm: number;
  readonly by: string;
  /** Hours, minutes, seconds. */
  readonly at: string;
  readonly replaced: boolean;
  readonly setAsideBy: string | null;
}

export function ReadingsAsEntered({
  readings,
  unit,
}: {
  readings: readonly EnteredReading[];
  unit: LengthUnit;
}) {
  if (readings.length === 0) return <p className="mb-0">None.</p>;
  return (
    <Rows label="Readings">
      <thead>
        <tr>
          <th scope="col">pass</th>
          <th scope="col">sheet</th>
          <th scope="col">station</th>
          <th scope="col">axis</th>
          <th scope="col" className="num">
            offset, {unit}
          </th>
          <th scope="col">who</th>
          <th scope="col">when</th>
        </tr>
      </thead>
      <tbody>
        {readings.map((r) => (
          <tr key={r.id} className={r.replaced ? 'soft' : undefined}>
            <td>{r.pass}</td>
            <td className="mono">{r.sheet}</td>
            <td>{r.station}</td>
            <td>{r.axis}</td>
            <td className="num">
              {r.replaced ? (
                <s>{signedLengthFigure(r.offsetMm, unit)}</s>
              ) : (
                signedLengthFigure(r.offsetMm, unit)
              )}
            </td>
            <td>{r.by}</td>
            <td>
              {`${r.at}${r.replaced ? ', replaced' : ''}${r.setAsideBy ? `, left out by ${r.setAsideBy}` : ''}`}
            </td>
          </tr>
        ))}
      </tbody>
    </Rows>
  );
}
