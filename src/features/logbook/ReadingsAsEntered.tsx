'use client';

import { signedLengthFigure, type LengthUnit } from '@/core/units';
import { DataTable } from '@/ui/tables/DataTable';

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
    <DataTable
      label="Readings"
      rows={readings}
      keyOf={(r) => r.id}
      rowProps={(r) => ({ className: r.replaced ? 'soft' : undefined })}
      columns={[
        ['pass', (r) => r.pass],
        ['sheet', (r) => r.sheet, 'mono'],
        ['station', (r) => r.station],
        ['axis', (r) => r.axis],
        [
          `offset, ${unit}`,
          (r) =>
            r.replaced ? <s>{signedLengthFigure(r.offsetMm, unit)}</s> : signedLengthFigure(r.offsetMm, unit),
          'num',
        ],
        ['who', (r) => r.by],
        [
          'when',
          (r) =>
            `${r.at}${r.replaced ? ', replaced' : ''}${r.setAsideBy ? `, left out by ${r.setAsideBy}` : ''}`,
        ],
      ]}
    />
  );
}
