import { atTheEnd, MOVED_FROM, withoutBacklash } from '@/core/calibration';
import { bleedCurve, DECLARED_EFFECT_U, type Push, type SettingChange } from '@/core/correction';
import { termTable, zeroField } from '@/core/fit';
import { preferences, requestDeps } from '@/server/base/context';
import { ownPagesOf } from '@/server/setups/ownPage';
import {
  currentPass,
  mayRegisterAgain,
  passReadings,
  pushesAtHand,
  stateOf,
  waysOf,
  type Session,
} from '@/server/sessions/session';
import { assessWithout } from '@/server/sessions/assess';
import { assess } from '@/server/sessions/assess';
import type { SetupSetting } from '@/server/setups/setup';
import { OffsetField } from '@/ui/pictures/OffsetField';
import { PushPicture } from '@/ui/pictures/PushPicture';

import { ActButton } from '@/features/forms/acts/ActButton';
import { CorrectDesk } from './CorrectDesk';
import { sessionAt } from '../loadSession';
import { CoarseFirst } from '../CoarseFirst';
import { BacklashNote, backlashWords } from '../BacklashNote';
import { LogNote } from '../LogNote';
import { MisreadNote } from '../MisreadNote';
import { correctAnswer, restWords, stateWords, whereTermsGo } from '../sentences';
import { kindsOfFault } from '@/server/sessions/faults';
import { tellsTerm } from '@/ui/words/termWords';
import { SessionPage } from '../SessionPage';
import { KindsNotice } from './KindsPanel';
import { pushView, settingView } from '../settingView';
import { SuspectPanel } from './SuspectPanel';
import { Why } from './Why';
import { lengthText } from '@/core/units';

/** One sentence, what to type, what it is made of, the field before and after, the working on demand. */
export async function CorrectPage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'correct');
  const { unit } = await preferences();
  const pass = currentPass(session);
  const a = assess(session, pass)!;
  const { plan } = a;
  const workArea = pass.sheet.geometry.spec.workArea;
  const rows = termTable(a.told, workArea, a.readingNoiseMm).filter((r) => tellsTerm(a.axis, r.term));
  const settings = session.setup.settings;
  const views = plan.settings.changes.map((c) => settingView(c, settings, unit));
  const pushes = pushesAtHand(session).map((p) => pushView(p, settings, unit));
  const leave = plan.decision === 'leave';
  const kinds = kindsOfFault(session, pass);
  const runs = await ownPagesOf(requestDeps(), session.setup.id);
  // What a push does, one axis alone does not tell.
  const ways = waysOf(session.setup, plan).filter((way) => a.axis === null || way !== 'push');
  const inFile = ways.includes('both') || ways[0] === 'file';
  // Nothing is corrected by what is only run, pushed or lived with.
  const stays = ways.length === 0 || ways[0] === 'machine-page' || ways[0] === 'push';
  const left = stays ? plan.field : plan.settings.leftOver;
  const after = leave || !inFile ? left : zeroField(plan.field.origin);
  const parts = whereTermsGo(plan, inFile);
  const backlash = backlashWords(a.backlash, unit);
  const asideNow = pass.readings.filter((r) => r.setAsideBy !== null);
  const suspects = a.ladder.suspects.map(({ stationId, axis }) => ({ stationId, axis }));
  const without = suspects.length > 0 ? assessWithout(session, pass, suspects) : null;
  return (
    <SessionPage
      session={session}
      ratio={a.axis ? null : a.r95Mm / session.setup.toleranceMm}
      words={stateWords(a)}
    >
      <h1 className="answer">{correctAnswer(a, settings, rows, unit, session.setup.changeable)}</h1>
      <div className="quiet-work">
        <div className="stack">
          <CoarseFirst ends={atTheEnd(pass.stations, pass.readings)} at="correct" unit={unit} />
          <MisreadNote misread={a.misread} />
          {a.fromLog && a.fromLog.moved > MOVED_FROM && <LogNote assessment={a} unit={unit} />}
          {backlash?.real && <BacklashNote note={backlash} />}
          {kinds && !leave && <KindsNotice kinds={kinds} />}
          {a.ladder.recommended === 'projective' && a.misread.one === null && (
            <p className="notice m-0">
              The offsets also change across the sheet as in a perspective. That is no setting’s doing: look
              for a sheet that lies uneven or stretched. The correction goes by the affine part.
            </p>
          )}
          {(suspects.length > 0 || asideNow.length > 0) && (
            <SuspectPanel
              session={stateOf(session)}
              all={a}
              without={without}
              suspects={suspects}
              aside={asideNow}
              unit={unit}
            />
          )}
          {leave && (
            <LeavePanel
              within={a.axis ? '' : lengthText(a.r95Mm, unit)}
              session={stateOf(session)}
              main={suspects.length === 0}
            />
          )}
          <CorrectDesk
            key={pass.correction?.id ?? ''}
            ways={ways}
            rest={restWords(rows, parts, unit)}
            bleed={
              ways.length === 0
                ? bleedCurve(
                    { bias: plan.field, covariance: plan.covariance, load: plan.load, shares: plan.shares },
                    plan.before.at,
                  )
                : []
            }
            session={stateOf(session)}
            correctionId={pass.correction?.id ?? null}
            sheetLabel={pass.sheet.label}
            leave={leave}
            settings={views}
            ownPage={{ setupId: session.setup.id, medium: session.setup.media, before: runs.at(-1) ?? null }}
            pushes={pushes}
            // What both axes would be within, one alone does not say.
            after={
              a.axis
                ? NO_FIGURES
                : {
                    settings: lengthText(plan.afterSettings.r95Mm, unit),
                    both: lengthText(plan.afterBoth.r95Mm, unit),
                    file: lengthText(plan.afterFile.r95Mm, unit),
                    'machine-page': '',
                    push: '',
                  }
            }
            why={
              <Why
                pass={pass}
                toleranceMm={session.setup.toleranceMm}
                observations={withoutBacklash(passReadings(session, pass), a.backlash).map(
                  (r) => r.observation,
                )}
                assessment={a}
                rows={rows}
                parts={parts}
                kinds={kinds}
                after={
                  leave || stays
                    ? null
                    : {
                        bias: after,
                        covariance: ways[0] === 'file' ? plan.covariance : plan.covarianceTyped,
                      }
                }
                unit={unit}
              />
            }
            others={<OtherSteps session={session} />}
            known={ways[0] === undefined || ways[0] === 'machine-page' ? [] : settings.filter(neverSeen)}
            unit={unit}
          />
        </div>
        {ways[0] === 'push' && !leave ? (
          <PushPicture
            now={{ x: plan.field.exMm, y: plan.field.eyMm }}
            typed={movedBy(plan.settings.changes)}
            pushesMm={pushesAtHand(session).map((p) => pushedMm(p, settings))}
            unit={unit}
          />
        ) : (
          <OffsetField
            workArea={workArea}
            before={plan.field}
            after={leave ? plan.field : after}
            unit={unit}
          />
        )}
      </div>
    </SessionPage>
  );
}

/** What can be done instead of correcting. */
function OtherSteps({ session }: { session: Session }) {
  return (
    <>
      {mayRegisterAgain(session) && (
        <ActButton
          act="register"
          session={stateOf(session)}
          words="Change nothing: register again without unloading, cut set B"
        />
      )}
      <ActButton act="reread" session={stateOf(session)} words="Back to the readings" />
    </>
  );
}

const NO_FIGURES = { settings: '', both: '', file: '', 'machine-page': '', push: '' };

/** Somebody says which way it goes, and no sheet has shown it yet. */
const neverSeen = (s: SetupSetting): boolean => s.directionKnown && (s.effectU ?? 1) >= DECLARED_EFFECT_U;

/** How far all that is typed moves the cut in the middle, mm. */
const movedBy = (changes: readonly SettingChange[]) => ({
  x: changes.reduce((sum, c) => sum + c.movesXMm, 0),
  y: changes.reduce((sum, c) => sum + c.movesYMm, 0),
});

/** How far a push moves it in the middle, whichever way, mm. */
const pushedMm = (push: Push, settings: readonly SetupSetting[]): number => {
  const { exMm, eyMm } = settings.find((s) => s.id === push.settingId)!.effect;
  return Math.abs(push.to - push.from) * Math.hypot(exMm, eyMm);
};

/** Nothing is typed: what is so, and out. */
function LeavePanel({
  within,
  session,
  main,
}: {
  /** What 95 of 100 cuts stay within as it is; empty where one axis alone was read. */
  within: string;
  session: ReturnType<typeof stateOf>;
  main: boolean;
}) {
  return (
    <>
      {within && (
        <p className="m-0">
          95 of 100 within <strong className="mono">{within}</strong> as it is. Adjusting on scatter makes a
          steady machine worse.
        </p>
      )}
      <ActButton act="close" session={session} words="Leave it and close" main={main} />
    </>
  );
}
