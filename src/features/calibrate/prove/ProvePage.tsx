import { MOVED_FROM } from '@/core/calibration';
import { bleedCurve, type Pooling } from '@/core/correction';
import { acceptance, type Acceptance } from '@/core/diagnosis';
import type { PlumbState } from '@/core/verdict';
import { preferences, requestDeps } from '@/server/base/context';
import { sheetFormats } from '@/server/sessions/sheets';
import { ownPagesOf, type OwnPage } from '@/server/setups/ownPage';
import { currentPass, isShort, previousPass, stateOf, type Session } from '@/server/sessions/session';
import { assess } from '@/server/sessions/assess';
import { foundOut } from '@/server/sessions/signs';
import { PassChart } from '@/ui/charts/PassChart';
import { scatterWords } from '@/ui/words/scatterWords';
import { Fold } from '@/ui/Fold';

import { BleedPanel } from '@/features/forms/setup/BleedPanel';
import { ActButton } from '@/features/forms/acts/ActButton';
import { sessionAt } from '../loadSession';
import { passPoints } from '@/features/forms/setup/passPoints';
import { proveAnswer, shiftWords, stateWords } from '../sentences';
import { SessionPage } from '../SessionPage';
import { Word } from '@/ui/words/Word';
import { acceptanceWords } from './acceptance.view';
import { BeforeProof } from './BeforeProof';
import { LogNote } from '../LogNote';
import { ShortProvePage } from '../short/ShortProvePage';
import { SignsNotice } from './SignsNotice';

const POOLING_WORDS: Readonly<Record<Pooling, string>> = {
  alone: '',
  joined: 'The set that was read before agrees with this one: both are in the figures.',
  disagrees:
    'The set that was read before led to expect something else, so this one counts alone: see whether everything was typed as said.',
};

/** The confirming cut: before it is cut, what to do; after it is read, whether the rig is plumb. */
export async function ProvePage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'prove');
  if (isShort(currentPass(session))) return <ShortProvePage session={session} />;
  const { unit } = await preferences();
  const pass = currentPass(session);
  const a = assess(session, pass);
  const read = pass.readings.length > 0 && a !== null;
  const found = foundOut(session);
  const decided = a?.scope === 'whole-area' ? accepted(session) : null;
  return (
    <SessionPage
      session={session}
      ratio={read && a.state ? a.r95Mm / session.setup.toleranceMm : null}
      words={read ? stateWords(a) : 'to be proved'}
    >
      {read ? (
        <>
          <h1 className="answer">{proveAnswer(a, session.setup.toleranceMm, unit)}</h1>
          <div className="two">
            <PassChart
              points={await passPoints(session)}
              toleranceMm={session.setup.toleranceMm}
              unit={unit}
            />
            <div className="stack side">
              <p className="m-0">
                The cut lands {shiftWords(a.plan.field.exMm, a.plan.field.eyMm, unit)}.{' '}
                {a.scope === 'whole-area'
                  ? `Worst at the ${a.worstName}.`
                  : a.axis
                    ? 'Only this axis was read.'
                    : 'Other places may differ.'}
              </p>
              {a.pooling === 'disagrees' && <p className="notice m-0">{POOLING_WORDS.disagrees}</p>}
              {a.fromLog && a.fromLog.moved > MOVED_FROM && <LogNote assessment={a} unit={unit} />}
              <SignsNotice found={found} session={stateOf(session)} rigId={session.setup.rigId} />
              <Next
                session={session}
                known={found.length === 0}
                state={a.state}
                whole={a.scope === 'whole-area'}
              />
              <div className="folds-row">
                <Fold name="prove-why" words="Why">
                  <div className="stack">
                    {decided &&
                      acceptanceWords(decided, session.setup.toleranceMm, unit).map((words) => (
                        <p key={words} className="m-0">
                          {words}
                        </p>
                      ))}
                    <p className="small-print m-0">
                      {previousPass(session)?.load === pass.load &&
                        'Proved on the load that was corrected, so it is a proof of this load. '}
                      <Word of="load scatter">Load scatter</Word>:{' '}
                      {scatterWords(a.scatter, unit, a.fromLog !== null)}{' '}
                      {a.pooling !== 'disagrees' && POOLING_WORDS[a.pooling]}
                    </p>
                    {!(a.fromLog && a.fromLog.moved > MOVED_FROM) && <LogNote assessment={a} unit={unit} />}
                  </div>
                </Fold>
                {a.scope === 'whole-area' && (
                  <Fold name="prove-bleed" words="Bleed that hides it">
                    <BleedPanel
                      curve={bleedCurve(
                        {
                          bias: a.plan.field,
                          covariance: a.plan.covariance,
                          load: a.plan.load,
                          shares: a.plan.shares,
                        },
                        a.plan.before.at,
                      )}
                      title="What hides what is left"
                      unit={unit}
                    />
                  </Fold>
                )}
              </div>
            </div>
          </div>
        </>
      ) : (
        <BeforeProof
          session={session}
          state={stateOf(session)}
          pass={pass}
          previous={previousPass(session)}
          formats={sheetFormats(pass.sheet, session.setup)}
          run={await runOfSession(session)}
        />
      )}
    </SessionPage>
  );
}

/** Whether what was read decides that the cuts to come stay within what is allowed. */
function accepted(session: Session): Acceptance | null {
  const pass = currentPass(session);
  const a = assess(session, pass);
  if (!a) return null;
  const { field: bias, covariance, load, shares, before } = a.plan;
  const stations = new Set(pass.readings.filter((r) => r.setAsideBy === null).map((r) => r.stationId)).size;
  return acceptance({ bias, covariance, load, shares }, before.at, session.setup.toleranceMm, stations);
}

function Next({
  session,
  known,
  state,
  whole,
}: {
  session: Session;
  /** Every setting did what it says, as far as the proof tells. */
  known: boolean;
  /** Null: only one axis was read. */
  state: PlumbState | null;
  whole: boolean;
}) {
  const quick = session.kind === 'quick-check';
  const plumb = state === 'plumb';
  // What did not hold replaces nothing by itself.
  const choose = state === 'out-of-plumb' && !quick;
  if (!state)
    return (
      <div className="stack">
        <ActButton act="reread" session={stateOf(session)} words="Read the other axis too" main />
        {!quick && <ActButton act="again" session={stateOf(session)} words="Go round again on this axis" />}
        <ActButton act="close" session={stateOf(session)} words="Close, keep the old correction" />
        {!quick && (
          <ActButton
            act="accept"
            session={stateOf(session)}
            words="Close it: what was typed stands, one axis proved"
          />
        )}
      </div>
    );
  return (
    <div className="stack">
      <ActButton
        act="close"
        session={stateOf(session)}
        words={
          choose
            ? 'Close, keep the old correction'
            : !plumb
              ? 'Close it as it is'
              : whole
                ? 'Close: it is proved'
                : 'Close: plumb where it was read'
        }
        main={plumb || quick}
      />
      {choose && <ActButton act="accept" session={stateOf(session)} words="Close, use the new one anyway" />}
      {!quick && (
        <ActButton act="again" session={stateOf(session)} words="Go round again" main={!plumb && known} />
      )}
      <ActButton act="reread" session={stateOf(session)} words="Back to the readings" />
      {quick && !plumb && (
        <p className="small-print mb-0">One place says that it is off, not why: calibrate from the bench.</p>
      )}
    </div>
  );
}

/** The run of the machine's own page that is to be proved; null when none was noted in this session. */
async function runOfSession({ setup, startedAt }: Session): Promise<OwnPage | null> {
  if (setup.changeable !== 'machine-page') return null;
  const last = (await ownPagesOf(requestDeps(), setup.id)).at(-1);
  return last && last.at >= startedAt ? last : null;
}
