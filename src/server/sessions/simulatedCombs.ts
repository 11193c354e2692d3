import 'server-only';

import { normalDeviate, seededRandom } from '@/core/random/random';
import { cutLineMm } from '@/core/comb';
import { applyAffine } from '@/core/geometry';
import { fieldFrom, landedLines, landing, loadField, lookAtComb, stripField } from '@/core/rigsim';
import { requestDeps } from '@/server/base/context';
import { getSimulation } from '@/server/setups/repository';
import type { OffsetAxis } from '@/core/units';

import { DEFAULT_ACUITY_OF_STEP } from '@/core/tolerance';

import type { CombAgain } from './readAgain';
import type { Pass, Session } from './session';

/** What a comb shows under the loupe of a simulated rig. */
export interface SimulatedComb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly landed: readonly number[];
  readonly coarseMm: number;
  /** Where the cut lies on this axis, mm. */
  readonly offMm: number;
}

/** Cut lines each side of the middle one that a loupe may show. */
const LINES_EACH_SIDE = 20;

/** What the loupe of a simulated rig shows of a comb that is read again: what was read first, seen by another look. */
export function simulatedAgain(pass: Pass, { station, axis }: CombAgain, look: number): SimulatedComb[] {
  const first = pass.readings.find((r) => r.stationId === station.id && r.axis === axis);
  if (!first) return [];
  const comb = station[axis];
  const jitter = DEFAULT_ACUITY_OF_STEP * comb.stepMm * normalDeviate(seededRandom(look));
  const landed = Array.from(
    { length: 2 * LINES_EACH_SIDE + 1 },
    (_, nth) => cutLineMm(comb, nth - LINES_EACH_SIDE) + first.offsetMm + jitter,
  );
  return [{ stationId: station.id, axis, landed, coarseMm: first.offsetMm, offMm: first.offsetMm }];
}

/** What the loupe of a simulated rig would show at each comb of this pass. */
export async function simulatedCombs(session: Session, pass: Pass): Promise<SimulatedComb[] | null> {
  const simulation = await getSimulation(requestDeps(), session.setup.id);
  if (!simulation) return null;
  const load = session.number * 16 + pass.load;
  const sheet = loadField(simulation, pass.settingsAtCut, load);
  const fieldAt =
    session.kind === 'roll-proof' ? stripField(simulation, pass.settingsAtCut, load) : () => sheet;
  return pass.stations.flatMap((station) => {
    const field = fieldFrom(simulation, fieldAt(station.centre.y), station);
    const landed = landing(field, pass.fileTransform);
    const at = applyAffine(landed, station.centre);
    return (['across', 'along'] as const).map((axis) => ({
      stationId: station.id,
      axis,
      landed: landedLines(station[axis], landed),
      offMm: axis === 'across' ? at.x - station.centre.x : at.y - station.centre.y,
      coarseMm: lookAtComb(
        station[axis],
        station.scaleCentre,
        field,
        seededRandom(simulation.seed),
        0,
        pass.fileTransform,
      ).coarseMm,
    }));
  });
}
