import 'server-only';

import { seededRandom } from '@/core/random/random';
import { fieldFrom, landedLines, landing, loadField, lookAtComb, stripField } from '@/core/rigsim';
import { requestDeps } from '@/server/base/context';
import { getSimulation } from '@/server/setups/repository';
import type { OffsetAxis } from '@/core/units';

import type { Pass, Session } from './session';

/** What a comb shows under the loupe of a simulated rig. */
export interface SimulatedComb {
  readonly stationId: string;
  readonly axis: OffsetAxis;
  readonly landed: readonly number[];
  readonly coarseMm: number;
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
    return (['across', 'along'] as const).map((axis) => ({
      stationId: station.id,
      axis,
      landed: landedLines(station[axis], landing(field, pass.fileTransform)),
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
