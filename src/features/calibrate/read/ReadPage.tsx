import type { OtherReading } from '@/core/calibration';
import { predictOffset } from '@/core/fit';
import { landedLines, landing, loadField, lookAtComb, stripField } from '@/core/rigsim';
import { seededRandom } from '@/core/random/random';
import { preferences, requestDeps } from '@/server/base/context';
import { getSimulation } from '@/server/setups/repository';
import { assess, currentPass, isOther, type Pass, type Session } from '@/server/sessions/session';
import { STATE_WORDS } from '@/core/verdict';

import { sessionAt } from '../loadSession';
import { ReadDesk, type SimulatedComb } from './ReadDesk';
import { OtherWays } from './OtherWays';
import { firstHand } from './readingHand';
import { SessionPage } from '../SessionPage';

export async function ReadPage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'read');
  const { unit } = await preferences();
  const pass = currentPass(session);
  const assessment = assess(session, pass);
  const readings = pass.readings.flatMap(({ stationId, axis, pick, coarseMm }) =>
    'line' in pick ? [{ stationId, axis, pick, coarseMm }] : [],
  );
  const others = pass.readings.filter(isOther).map(toOther);
  return (
    <SessionPage
      session={session}
      ratio={assessment ? assessment.r95Mm / session.setup.toleranceMm : null}
      words={assessment ? STATE_WORDS[assessment.state] : `reading set ${pass.set === 1 ? 'A' : 'B'}`}
    >
      <ReadDesk
        key={pass.id}
        sessionId={session.id}
        passId={pass.id}
        sheet={pass.sheet.geometry}
        set={pass.set}
        initial={readings}
        others={others}
        changes={session.changes}
        first={firstHand(pass.sheet.geometry, pass.set, readings, predictOffset)}
        toleranceMm={session.setup.toleranceMm}
        unit={unit}
        simulated={session.setup.simulated ? await simulatedCombs(session, pass) : null}
      />
      <OtherWays key={`${pass.id}-others`} passId={pass.id} list={others} unit={unit} />
    </SessionPage>
  );
}

const toOther = ({ stationId, axis, xMm, yMm, offsetMm, uMm, pick }: OtherReading): OtherReading => ({
  ...{ stationId, axis, xMm, yMm, offsetMm, uMm, pick },
});

/** What the loupe of a simulated rig would show at each comb of this pass. */
async function simulatedCombs(session: Session, pass: Pass): Promise<SimulatedComb[] | null> {
  const simulation = await getSimulation(requestDeps(), session.setup.id);
  if (!simulation) return null;
  const load = session.number * 16 + pass.load;
  const sheet = loadField(simulation, pass.settingsAtCut, load);
  const fieldAt =
    session.kind === 'roll-proof' ? stripField(simulation, pass.settingsAtCut, load) : () => sheet;
  return pass.stations.flatMap((station) => {
    const field = fieldAt(station.centre.y);
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
