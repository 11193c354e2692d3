import Link from 'next/link';
import { notFound } from 'next/navigation';

import { dateText } from '@/clock/dates';
import { versionWords } from '@/ui/words/versionWords';
import { unitWords } from '@/ui/words/settingWords';
import { fixed, lengthText, placesOfStep } from '@/core/units';
import { STATE_WORDS } from '@/core/verdict';
import { preferences, requestDeps } from '@/server/base/context';
import { sessionTrace } from '@/server/logbook/logbook';
import { idSchema } from '@/server/base/shapes';
import { getSession } from '@/server/sessions/loadSession';
import { stateOf, type Session } from '@/server/sessions/session';
import { PassChart } from '@/ui/charts/PassChart';
import { PlumbGlyph } from '@/ui/pictures/PlumbGlyph';

import { ActButton } from '@/features/forms/acts/ActButton';
import { passPoints } from '@/features/forms/setup/passPoints';
import { Recipe, recipeNoted } from '@/features/forms/setup/Recipe';
import { Page } from '../frame/Page';
import { ReadingsAsEntered } from './ReadingsAsEntered';
import { Rows } from '@/ui/tables/Rows';

/** One session as it happened: readings, fits, what was typed, files, who and when. */
export async function SessionLogPage({ params }: { params: Promise<{ id: string }> }) {
  const id = idSchema.safeParse((await params).id);
  if (!id.success) notFound();
  const deps = requestDeps();
  const session = await getSession(deps, id.data);
  if (!session) notFound();
  const { unit } = await preferences();
  const trace = await sessionTrace(deps, session.id);
  const points = await passPoints(session);
  const ratio = session.outcomeR95Mm === null ? null : session.outcomeR95Mm / session.setup.toleranceMm;
  return (
    <Page
      title={`Session of ${dateText(session.startedAt, 'd MMMM yyyy')}, ${session.setup.media}`}
      context={
        <>
          <strong>{session.setup.name}</strong>
          <span className="soft">
            {session.setup.media}, {dateText(session.startedAt, 'd MMMM yyyy')}
          </span>
          <span className="d-inline-flex align-items-center gap-2">
            <PlumbGlyph
              ratio={ratio}
              size={30}
              label={session.outcome ? STATE_WORDS[session.outcome] : 'not measured'}
            />
            <strong>{session.outcome ? STATE_WORDS[session.outcome] : 'Not measured'}</strong>
          </span>
        </>
      }
    >
      <h1 className="answer">{answer(session, unit)}</h1>
      <div className="two">
        <div className="stack">
          {points.length > 0 && (
            <PassChart points={points} toleranceMm={session.setup.toleranceMm} unit={unit} />
          )}
          <section className="panel">
            <h2>Readings, as entered</h2>
            <ReadingsAsEntered
              unit={unit}
              readings={trace.entered.map(({ reading, position, sheet }) => ({
                ...{ id: reading.id, pass: position, sheet: String(sheet).padStart(4, '0') },
                ...{ station: reading.stationId, axis: reading.axis, offsetMm: reading.offsetMm },
                ...{ by: reading.enteredBy, at: dateText(reading.enteredAt, 'HH:mm:ss') },
                ...{ replaced: reading.replacedAt !== null, setAsideBy: reading.setAsideBy },
              }))}
            />
          </section>
        </div>
        <div className="stack side">
          <PrintedHow session={session} unit={unit} />
          <AsTables session={session} />
          <section className="panel">
            <h2>What was typed</h2>
            {trace.typed.length === 0 && <p className="mb-0">Nothing.</p>}
            <Rows label="Figures typed">
              <tbody>
                {trace.typed.map(({ change, setting, unit: settingUnit, step }) => (
                  <tr key={change.id}>
                    <th scope="row">{setting}</th>
                    <td className="num">
                      {change.fromValue !== null && `${fixed(change.fromValue, placesOfStep(step))} → `}
                      {fixed(change.toValue, placesOfStep(step))} {unitWords(settingUnit)}
                    </td>
                    <td>
                      {change.changedBy}, {dateText(change.changedAt, 'HH:mm')}
                    </td>
                  </tr>
                ))}
              </tbody>
            </Rows>
          </section>
          <section className="panel">
            <h2>Fits kept</h2>
            {trace.fits.length === 0 && <p className="mb-0">None.</p>}
            <Rows label="Files made">
              <tbody>
                {trace.fits.map(({ fit, position }) => (
                  <tr key={fit.id}>
                    <th scope="row">pass {position}</th>
                    <td>
                      explained as {fit.recommended}, corrected with {fit.widest}
                    </td>
                    <td className="small-print">{versionWords(fit.version)}</td>
                  </tr>
                ))}
              </tbody>
            </Rows>
          </section>
          {trace.files.length > 0 && (
            <section className="panel">
              <h2>Corrected files</h2>
              <ul className="mb-0 ps-3">
                {trace.files.map((f) => (
                  <li key={f.id}>
                    <a href={`/api/corrected-files/${f.id}`}>{f.fileName}</a>, {f.by},{' '}
                    {dateText(f.at, 'HH:mm')}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {session.stage === 'closed' && (
            <ActButton act="reopen" session={stateOf(session)} words="Closed by mistake: open it again" />
          )}
        </div>
      </div>
    </Page>
  );
}

function answer(session: Session, unit: 'mm' | 'in'): string {
  const who = session.closedBy ?? session.startedBy;
  if (session.discarded) return `Discarded by ${who}: started by mistake. It says nothing about the rig.`;
  if (session.unproved)
    return `Corrected, and closed by ${who} before the proof was read: what was typed or cut with is on record, not what it does.`;
  if (session.outcome === null || session.outcomeR95Mm === null)
    return session.stage === 'closed' ? `Given up by ${who} before it said anything.` : 'Still open.';
  const what = session.kind === 'calibration' ? 'Calibrated' : 'Checked';
  return `${what} by ${who}: ${STATE_WORDS[session.outcome].toLowerCase()}, 95 of 100 cuts within ${lengthText(session.outcomeR95Mm, unit)}, allowed ${lengthText(session.setup.toleranceMm, unit)}.`;
}

/** The recipe and the check bars of what was printed, as they were then. */
function PrintedHow({ session, unit }: { session: Session; unit: 'mm' | 'in' }) {
  const pass = session.passes.find((p) => p.recipe !== null);
  const said =
    pass?.recipe && (recipeNoted(pass.recipe) || pass.barAcrossMm !== null || pass.barAlongMm !== null);
  if (!pass?.recipe || !said) return null;
  const bars = [
    ['across', pass.barAcrossMm],
    ['along', pass.barAlongMm],
  ] as const;
  return (
    <section className="panel">
      <h2>How it was printed</h2>
      <Recipe recipe={pass.recipe} />
      {bars.map(
        ([axis, mm]) =>
          mm !== null && (
            <p key={axis} className="small-print mt-2 mb-0">
              Check bar {axis}: {lengthText(mm, unit)}.
            </p>
          ),
      )}
    </section>
  );
}

/** Each set that was read, as a table that other programs take and Read takes back. */
function AsTables({ session }: { session: Session }) {
  const read = session.passes.filter((p) => p.readings.length > 0);
  if (read.length === 0) return null;
  return (
    <section className="panel">
      <h2>Readings as tables</h2>
      <p className="d-flex flex-wrap gap-2 mb-0">
        {read.map((p) => (
          <a key={p.id} className="btn btn-plain" href={`/api/passes/${p.id}/table`}>
            Sheet {p.sheet.label}, set {p.set === 1 ? 'A' : 'B'}
          </a>
        ))}
      </p>
      {!session.discarded && (
        <p className="small-print mt-3 mb-0">
          How well was it read? <Link href={`/calibrate/${session.id}/again`}>Read some of it again</Link>
        </p>
      )}
    </section>
  );
}
