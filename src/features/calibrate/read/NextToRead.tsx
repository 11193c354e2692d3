import Button from 'react-bootstrap/Button';

import { nextStation, type Assessment } from '@/core/calibration';
import type { Observation } from '@/core/fit';
import { placeName, type Rect } from '@/core/geometry';
import type { Station } from '@/core/proof';
import { lengthText, type LengthUnit } from '@/core/units';

/** Which station would tell most now, and when it is enough. */
export function NextToRead({
  assessment,
  observations,
  stations,
  area,
  here,
  unit,
  onGo,
}: {
  assessment: Assessment;
  /** What it is made from. */
  observations: readonly Observation[];
  stations: readonly Station[];
  area: Rect;
  /** The station under the eye. */
  here: string;
  unit: LengthUnit;
  onGo: (stationId: string) => void;
}) {
  const read = observations.map(({ stationId, axis, uMm, xMm, yMm }) => ({
    ...{ stationId, axis, uMm },
    at: { x: xMm, y: yMm },
  }));
  const next = nextStation(stations, read, area, assessment.readingNoiseMm, assessment.plan.load.shiftMm);
  const station = stations.find((s) => s.id === next.stationId);
  if (!station) return null;
  if (next.enough)
    return (
      <p className="small-print mt-3 mb-0" role="status">
        Enough: another station would narrow what can be promised by less than{' '}
        {lengthText(Math.max(next.nowMm - next.thenMm, 0.005), unit)} on average.
      </p>
    );
  return (
    <p className="small-print mt-3 mb-0" role="status">
      Good to {lengthText(next.nowMm, unit)}; with {station.id} {lengthText(next.thenMm, unit)}.
      {station.id !== here && (
        <Button
          variant="link"
          className="p-0 ms-2 align-baseline"
          title={placeName(station.centre, area)}
          onClick={() => onGo(station.id)}
        >
          Go there
        </Button>
      )}
    </p>
  );
}
