import type { ProofSheet } from '@/core/proof';
import type { LengthUnit } from '@/core/units';
import type { SimulatedComb } from '@/server/sessions/simulatedCombs';
import { SheetMap } from '@/ui/pictures/SheetMap';

import { CoarsePicture } from './CoarsePicture';
import { LoupeView } from './CombPicture';
import { combOf, readOffset, type Hand, type Task } from './readingHand';
import type { KeptReading } from './useReadings';

/** The sheet with what was read of it, and the simulated loupe below. */
export function DeskMap({
  sheet,
  set,
  readings,
  task,
  mode,
  simulated,
  unit,
  onPick,
}: {
  sheet: ProofSheet;
  set: 1 | 2;
  readings: readonly KeptReading[];
  task: Task;
  mode: Hand['mode'];
  simulated: readonly SimulatedComb[] | null;
  unit: LengthUnit;
  onPick: (stationId: string) => void;
}) {
  const sim = simulated?.find((s) => s.stationId === task.station.id && s.axis === task.axis) ?? null;
  return (
    <div className="stack map">
      <SheetMap
        widthMm={sheet.spec.sheetWidthMm}
        heightMm={sheet.spec.sheetHeightMm}
        height={350}
        unit={unit}
        onPick={onPick}
        stations={sheet.stations
          .filter((s) => s.set === set)
          .map((s) => ({
            id: s.id,
            xMm: s.centre.x,
            yMm: s.centre.y,
            dxMm: readOffset(sheet, readings, s.id, 'across'),
            dyMm: readOffset(sheet, readings, s.id, 'along'),
            current: s.id === task.station.id,
          }))}
      />
      {sim && (
        <section className="panel p-2">
          <h2 className="mb-1">Loupe of the simulated rig</h2>
          {mode === 'fine' ? (
            <LoupeView
              comb={combOf(task)}
              unit={unit}
              landed={sim.landed}
              plumbAt={null}
              bold={null}
              words="Simulated loupe: match the large picture to this one."
            />
          ) : (
            <CoarsePicture
              axis={task.axis}
              atMm={sim.coarseMm}
              compact
              words={`Simulated loupe: the cut line crosses at ${sim.coarseMm} mm.`}
            />
          )}
        </section>
      )}
    </div>
  );
}
