import { atTheEnd, withoutBacklash } from '@/core/calibration';
import { bleedCurve } from '@/core/correction';
import { termTable, zeroField, type AffineField } from '@/core/fit';
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
import { OffsetField } from '@/ui/pictures/OffsetField';
import { SpreadMaps } from '@/ui/pictures/SpreadMaps';

import { ActButton } from '@/features/forms/acts/ActButton';
import { CorrectDesk } from './CorrectDesk';
import { sessionAt } from '../loadSession';
import { CoarseFirst } from '../CoarseFirst';
import { BacklashNote } from '../BacklashNote';
import { LogNote } from '../LogNote';
import { MisreadNote } from '../MisreadNote';
import {
  correctAnswer,
  movesWords,
  registrationWords,
  shiftWords,
  stateWords,
  termWidth,
  whereTermsGo,
} from '../sentences';
import { kindsOfFault } from '@/server/sessions/faults';
import { scatterWords } from '@/ui/words/scatterWords';
import { TERM_WORDS, tellsTerm, termText } from '@/ui/words/termWords';
import { SessionPage } from '../SessionPage';
import { FunnelFigure } from './FunnelFigure';
import { KindsNotice, KindsPanel } from './KindsPanel';
import { settingView } from '../settingView';
import { SuspectPanel } from './SuspectPanel';
import { Working } from './Working';
import { lengthText, type LengthUnit } from '@/core/units';
import { Word } from '@/ui/words/Word';

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
  const views = plan.settings.changes.map((c) => settingView(c, settings));
  const pushes = pushesAtHand(session).map((p) => settingView({ ...p, ...MOVES_NOTHING }, settings));
  const moved = plan.settings.changes.reduce((sum, c) => ({ x: sum.x + c.movesXMm, y: sum.y + c.movesYMm }), {
    x: 0,
    y: 0,
  });
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
      <div className="two">
        <div className="stack">
          <OffsetField
            workArea={workArea}
            before={plan.field}
            after={leave ? plan.field : after}
            unit={unit}
          />
          {!a.axis && (
            <SpreadMaps
              workArea={workArea}
              toleranceMm={session.setup.toleranceMm}
              before={{ bias: plan.field, covariance: plan.covariance, load: plan.load, shares: plan.shares }}
              after={
                leave || stays
                  ? null
                  : {
                      bias: after,
                      covariance: ways[0] === 'file' ? plan.covariance : plan.covarianceTyped,
                      load: plan.load,
                      shares: plan.shares,
                    }
              }
              unit={unit}
            />
          )}
          <Working
            assessment={a}
            observations={withoutBacklash(passReadings(session, pass), a.backlash).map((r) => r.observation)}
            workArea={workArea}
            stepMm={pass.sheet.geometry.spec.stepMm}
            unit={unit}
          />
        </div>
        <div className="stack side">
          <CoarseFirst ends={atTheEnd(pass.stations, pass.readings)} at="correct" unit={unit} />
          <MisreadNote misread={a.misread} />
          <LogNote assessment={a} unit={unit} />
          <BacklashNote backlash={a.backlash} unit={unit} />
          {kinds && !leave && <KindsNotice kinds={kinds} />}
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
              loadSdMm={plan.load.shiftMm}
              readingSdMm={Math.sqrt((plan.covariance[4]![4]! + plan.covariance[5]![5]!) / 2)}
              field={plan.field}
              session={stateOf(session)}
              main={suspects.length === 0}
              unit={unit}
            />
          )}
          <CorrectDesk
            key={pass.correction?.id ?? ''}
            ways={ways}
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
            moves={movesWords(moved.x, moved.y, unit)}
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
            unit={unit}
          />
          <TermsPanel rows={rows} parts={parts} leave={leave} unit={unit} />
          {a.ladder.recommended === 'projective' && a.misread.one === null && (
            <p className="notice m-0">
              The offsets also change across the sheet as in a perspective. That is no setting’s doing: look
              for a sheet that lies uneven or stretched. The correction goes by the affine part.
            </p>
          )}
          {kinds && <KindsPanel kinds={kinds} />}
          <p className="small-print m-0">
            <Word of="load scatter">Load scatter</Word>: {scatterWords(a.scatter, unit, a.fromLog !== null)}
          </p>
          <p className="small-print m-0">{registrationWords(pass.sheet.geometry.spec.marks?.count ?? 0)}</p>
          <OtherSteps session={session} />
        </div>
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

const MOVES_NOTHING = { movesXMm: 0, movesYMm: 0, clamped: false, questioned: false };
const NO_FIGURES = { settings: '', both: '', file: '', 'machine-page': '', push: '' };

/** Why nothing is to be typed. */
function LeavePanel({
  loadSdMm,
  readingSdMm,
  field,
  session,
  main,
  unit,
}: {
  /** Of loads, and of what a set of combs is read to: one axis each. */
  loadSdMm: number;
  readingSdMm: number;
  field: AffineField;
  session: ReturnType<typeof stateOf>;
  main: boolean;
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>Leave it</h2>
      <p>
        What was found ({shiftWords(field.exMm, field.eyMm, unit)} at the centre) is within twice what reading
        and loading scatter alone would show. Adjusting on that makes a steady machine worse.
      </p>
      <ActButton act="close" session={session} words="Leave it and close" main={main} />
      <FunnelFigure loadSdMm={loadSdMm} readingSdMm={readingSdMm} unit={unit} />
    </section>
  );
}

/** Each term with its doubt, how much it matters, and where it goes. */
function TermsPanel({
  rows,
  parts,
  leave,
  unit,
}: {
  rows: ReturnType<typeof termTable>;
  parts: ReturnType<typeof whereTermsGo>;
  leave: boolean;
  unit: LengthUnit;
}) {
  return (
    <section className="panel">
      <h2>Parts of the error</h2>
      <table className="rows rows-tight">
        <thead>
          <tr>
            <th scope="col">term</th>
            <th scope="col" className="num">
              found
            </th>
            <th scope="col" className="num">
              at worst
            </th>
            <th scope="col">
              <span className="visually-hidden">what to do</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const place = parts[row.term];
            const goes = place === 'new each load' || (row.real && !leave) ? place : 'leave it';
            const toDo = goes !== 'leave it' && goes !== 'new each load';
            return (
              <tr key={row.term}>
                <th scope="row">{TERM_WORDS[row.term]}</th>
                <td className="text-end">
                  {termText(row.term, row.deviation, unit)}
                  <br />
                  <span className="small-print">{termWidth(row.term, row.halfWidth95, unit)}</span>
                </td>
                <td className="text-end text-nowrap ps-2">{lengthText(row.atWorstMm, unit)}</td>
                <td className="text-end ps-2">
                  <span className={`tag ${toDo ? 'tag-do' : 'tag-none'}`}>{goes}</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
