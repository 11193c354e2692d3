import { fixed, lengthText, placesOfStep, type LengthUnit } from '@/core/units';
import { preferences } from '@/server/base/context';
import { assess } from '@/server/sessions/assess';
import { currentPass, previousPass, stateOf, type Session } from '@/server/sessions/session';
import { sheetFormats } from '@/server/sessions/sheets';
import { foundOut } from '@/server/sessions/signs';
import { simulatedCombs } from '@/server/sessions/simulatedCombs';
import { ActButton } from '@/features/forms/acts/ActButton';
import { Fold } from '@/ui/Fold';

import { SignsNotice } from '../prove/SignsNotice';
import { SessionPage } from '../SessionPage';
import { shiftWords } from '../sentences';
import { CutFiles } from '../CutFiles';
import { ShortConfirm } from './ShortConfirm';
import { shortHand } from './loadShort';
import { UnseenPicture } from './UnseenPicture';
import { middleWords } from './shortWords';

/** The second set of a short sheet: asked, then what it says. */
export async function ShortProvePage({ session }: { session: Session }) {
  const { unit } = await preferences();
  const pass = currentPass(session);
  const a = session.stage === 'prove' && pass.readings.length > 0 ? assess(session, pass) : null;
  return (
    <SessionPage
      session={session}
      ratio={a ? a.r95Mm / session.setup.toleranceMm : null}
      words={a?.middle ? middleWords(a, session.setup.toleranceMm) : 'to be confirmed'}
    >
      {a?.middle ? <Proved session={session} unit={unit} /> : await asking(session, unit)}
    </SessionPage>
  );
}

async function asking(session: Session, unit: LengthUnit) {
  const pass = currentPass(session);
  const done = previousPass(session)?.correction?.done;
  const formats = sheetFormats(pass.sheet, session.setup);
  return (
    <>
      <h1 className="answer">
        {done === 'push'
          ? 'Cut set B on the same sheet. Make both combs look like your loupe.'
          : 'Cut set B on the same sheet. Does the middle pair run straight through?'}
      </h1>
      <div className="two short">
        <div>
          <ShortConfirm
            key={`${pass.id} ${session.version}`}
            session={stateOf(session)}
            passId={pass.id}
            station={pass.stations[0]!}
            first={shortHand(pass)}
            opened={done === 'push' || pass.readings.length > 0}
            unit={unit}
            simulated={session.setup.simulated ? await simulatedCombs(session, pass) : null}
          />
        </div>
        <div className="stack side short-side">
          <Shows session={session} />
          <section className="panel">
            <h2>Cut set B</h2>
            <div className="d-flex flex-wrap gap-2">
              <CutFiles pass={pass} formats={formats} />
            </div>
          </section>
          <Unproved session={session} />
        </div>
      </div>
    </>
  );
}

/** What stands on the machine now. */
function Shows({ session }: { session: Session }) {
  const { settings } = session.setup;
  if (settings.length === 0) return null;
  return (
    <section className="panel">
      <h2>The cutter shows</h2>
      <p className="mono shows-now mb-0">
        {settings.map((s) => (
          <span key={s.id} className="text-nowrap">
            <span className="shows-name">{s.name}</span> {fixed(s.value, placesOfStep(s.step))}{' '}
          </span>
        ))}
      </p>
    </section>
  );
}

function Unproved({ session }: { session: Session }) {
  const state = stateOf(session);
  return (
    <div>
      <Fold name="short-unproved" words="Close without an answer" usual="nobody then knows whether it holds">
        <div className="stack">
          <ActButton act="accept" session={state} words="Close without proof, use the new one" />
          <ActButton act="close" session={state} words="Close without proof, keep the old correction" />
        </div>
      </Fold>
      <Fold name="short-unseen" words="Unseen" usual="turn, size and lean">
        <ActButton act="widen" session={state} words="Full sheet instead" />
      </Fold>
    </div>
  );
}

/** What both answers say, and what two picks leave open. */
function Proved({ session, unit }: { session: Session; unit: LengthUnit }) {
  const pass = currentPass(session);
  const a = assess(session, pass)!;
  const { toleranceMm, settings } = session.setup;
  const found = foundOut(session);
  const middle = a.middle!;
  const holds = middle.nextLoadsMm <= toleranceMm;
  const typed = settings.map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))}`).join(' and ');
  const state = stateOf(session);
  const known = found.length === 0;
  return (
    <>
      <h1 className="answer">
        {holds && known
          ? `Plumb in the middle: within ${lengthText(middle.thisLoadMm, unit)} on this load. Let ${typed || 'it'} stand.`
          : `In the middle the cut lands ${shiftWords(a.plan.field.exMm, a.plan.field.eyMm, unit)}. ${known ? 'Go round again.' : ''}`}
      </h1>
      <div className="two short">
        <section className="short-paper short-open">
          <h2>What two picks leave open</h2>
          <UnseenPicture
            seen={lengthText(middle.nextLoadsMm, unit)}
            corners={lengthText(a.r95Mm, unit)}
            plumb={holds}
          />
          <p className="small-print mb-0">
            Next loads: {lengthText(middle.nextLoadsMm, unit)} in the middle, {lengthText(a.r95Mm, unit)} in
            the worst corner, of {lengthText(toleranceMm, unit)} allowed. What turn, size and lean add there
            is {a.fromLog ? 'from this rig’s log' : 'what untouched rigs have'}.
          </p>
        </section>
        <div className="stack side short-side">
          <Shows session={session} />
          <SignsNotice found={found} session={state} rigId={session.setup.rigId} />
          <div className="stack">
            {holds && known && <ActButton act="accept" session={state} words="Keep it" main enter />}
            {(!holds || !known) && (
              <ActButton act="again" session={state} words="Go round again" main={known} />
            )}
          </div>
          <div>
            <Fold
              name="short-after"
              words="Something else"
              usual="the answers, the full sheet, the old correction"
            >
              <div className="stack">
                <ActButton act="reread" session={state} words="Back to the answers" />
                <ActButton act="widen" session={state} words="Full sheet instead" />
                <ActButton act="close" session={state} words="Close, keep the old correction" />
              </div>
            </Fold>
          </div>
        </div>
      </div>
    </>
  );
}
