import Link from 'next/link';

import { predictOffset } from '@/core/fit';
import { landing, loadField } from '@/core/rigsim';
import { atTheEnd } from '@/core/calibration';
import { applyAffine } from '@/core/geometry';
import { OFFSET_AXES, type LengthUnit } from '@/core/units';
import { preferences, requestDeps } from '@/server/base/context';
import { getSimulation } from '@/server/setups/repository';
import { usualOf } from '@/server/setups/usual';
import { simulatedCombs } from '@/server/sessions/simulatedCombs';
import {
  currentPass,
  featuresOf,
  isOther,
  isShort,
  sheetName,
  stateOf,
  type Pass,
  type Session,
} from '@/server/sessions/session';
import { assess } from '@/server/sessions/assess';
import { ringOf, ringsOf } from '@/core/readings/rings';
import { otherPassReading } from '@/core/readings/registry';
import { EVEN_WITHIN_MM } from '@/core/readings/even';
import { gapsOf } from '@/core/readings/gaps';

import { Fold } from '@/ui/Fold';
import { sessionAt } from '../loadSession';
import { stateWords } from '../sentences';
import { CoarseFirst } from '../CoarseFirst';
import { Axes } from './Axes';
import { EvenFirst } from './EvenFirst';
import { RingDesk, type RingToRead } from './RingDesk';
import { ShortDesk } from '../short/ShortDesk';
import { ShortProvePage } from '../short/ShortProvePage';
import { shortGiven, shortHand, shortPushes, shortWays } from '../short/loadShort';
import { middleWords } from '../short/shortWords';
import { ReadDesk } from './ReadDesk';
import { OtherWays } from './OtherWays';
import { firstHand } from './readingHand';
import { SessionPage } from '../SessionPage';
import { otherRows } from './otherWays.view';

export async function ReadPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { axis } = await searchParams;
  const only = OFFSET_AXES.find((a) => a === axis) ?? null;
  const session = await sessionAt((await params).id, 'read');
  const { unit } = await preferences();
  const pass = currentPass(session);
  if (isShort(pass))
    return pass.purpose === 'prove' && pass.set === 2 ? (
      <ShortProvePage session={session} />
    ) : (
      shortRead(session, pass, unit)
    );
  const assessment = assess(session, pass);
  const readings = pass.readings.flatMap(({ stationId, axis, pick, coarseMm, by }) =>
    'line' in pick ? [{ stationId, axis, pick, coarseMm, by }] : [],
  );
  const others = pass.readings.filter(isOther);
  const rings = await ringRows(session, pass);
  const { readBy = 'comb' } = pass.sheet.geometry.spec;
  const usual = await usualOf(requestDeps(), session.setup);
  // A rig just met may be further out than its rings reach.
  const nobodyKnows = readBy === 'rings' && usual.everMm == null && session.passes.length === 1;
  const ends = atTheEnd(pass.stations, pass.readings);
  const otherFirst = readBy === 'gaps' || readBy === 'lengths' || readBy === 'table';
  const otherWays = (
    <OtherWays
      key={`${pass.id}-others`}
      passId={pass.id}
      rows={otherRows(others, unit)}
      wanted={otherFirst || ends.some((e) => e.way === 'cross')}
      stations={featuresOf(pass)}
      lengths={pass.lengths}
      shapes={pass.stations.flatMap(({ id, gapShape }) =>
        gapShape ? [{ id, read: others.some((o) => o.stationId === gapsOf(id)) }] : [],
      )}
      any={pass.readings.length > 0}
      unit={unit}
    />
  );
  return (
    <SessionPage
      session={session}
      ratio={assessment?.state ? assessment.r95Mm / session.setup.toleranceMm : null}
      words={assessment ? stateWords(assessment) : `reading set ${pass.set === 1 ? 'A' : 'B'}`}
    >
      {pass.readings.length === 0 && session.kind !== 'roll-proof' && (
        <EvenFirst passId={pass.id} stations={pass.stations.length} withinMm={EVEN_WITHIN_MM} unit={unit} />
      )}
      <CoarseFirst ends={ends} at="read" unit={unit} />
      {rings.length > 0 && (
        <RingDesk
          key={`${pass.id}-rings`}
          passId={pass.id}
          rows={rings}
          keys={readBy === 'rings'}
          coarse={nobodyKnows && rings.every((r) => r.kept === null)}
          unit={unit}
        />
      )}
      {otherFirst && otherWays}
      <ReadDesk
        key={`${pass.id} ${only}`}
        only={only}
        sessionId={session.id}
        passId={pass.id}
        sheetLabel={sheetName(pass.sheet)}
        sheet={pass.sheet.geometry}
        set={pass.set}
        keys={readBy === 'comb' || only !== null}
        initial={readings}
        others={others.map(otherPassReading)}
        changes={session.changes}
        first={firstHand(pass.sheet.geometry, pass.set, readings, predictOffset, only)}
        toleranceMm={session.setup.toleranceMm}
        usual={usual}
        acuityMm={session.acuityMm}
        unit={unit}
        simulated={session.setup.simulated ? await simulatedCombs(session, pass) : null}
      />
      {!otherFirst && otherWays}
      <Fold name="read-more" words="One axis, or again" usual={only ?? 'both axes'} open={only !== null}>
        <Axes sessionId={session.id} only={only} />
        {readings.length > 3 && (
          <p className="small-print mt-3 mb-0">
            How well do you read?{' '}
            <Link href={`/calibrate/${session.id}/again`}>Read some of these combs again</Link>, you or
            somebody else. What reading adds to every figure is learnt from that.
          </p>
        )}
      </Fold>
    </SessionPage>
  );
}

/** Two picks of a short sheet. */
async function shortRead(session: Session, pass: Pass, unit: LengthUnit) {
  const a = assess(session, pass);
  return (
    <SessionPage
      session={session}
      ratio={null}
      words={a ? middleWords(a, session.setup.toleranceMm) : 'two picks'}
    >
      <ShortDesk
        key={pass.id}
        session={stateOf(session)}
        passId={pass.id}
        given={shortGiven(session, pass)}
        ways={shortWays(session, pass)}
        pushes={shortPushes(session, unit)}
        usual={await usualOf(requestDeps(), session.setup)}
        first={shortHand(pass)}
        unit={unit}
        simulated={session.setup.simulated ? await simulatedCombs(session, pass) : null}
      />
    </SessionPage>
  );
}

/** The rows of rings of a set in the order of its stations, with what was read of them. */
async function ringRows(session: Session, pass: Pass): Promise<RingToRead[]> {
  const rows = pass.stations.flatMap(({ id, rings = [] }) => rings.map((row) => ({ stationId: id, row })));
  const simulation =
    session.setup.simulated && rows.length > 0 ? await getSimulation(requestDeps(), session.setup.id) : null;
  const field = simulation && loadField(simulation, pass.settingsAtCut, session.number * 16 + pass.load);
  return rows.map(({ stationId, row }) => {
    const read = pass.readings.find((r) => r.stationId === ringsOf(stationId) && r.axis === row.axis);
    const pick = read && 'school' in read.pick && read.pick.school === 'rings' ? read.pick : null;
    const landed = field && applyAffine(landing(field, pass.fileTransform), row.centre);
    return {
      ...{ stationId, row },
      kept: pick && ringOf(pick),
      simulatedMm: landed && (row.axis === 'across' ? landed.x - row.centre.x : landed.y - row.centre.y),
    };
  });
}
