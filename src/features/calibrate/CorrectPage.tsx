import { addFields, termTable } from '@/core/fit';
import { rectCentre } from '@/core/geometry';
import { STATE_WORDS } from '@/core/verdict';
import { preferences } from '@/server/context';
import { assess, currentPass } from '@/server/session';
import { OffsetField } from '@/ui/OffsetField';

import { Page } from '../frame/Page';

import { ActButton } from './ActButton';
import { CorrectDesk, type SettingView } from './CorrectDesk';
import { sessionAt } from './loadSession';
import {
  correctAnswer,
  movesWords,
  settingFigure,
  shiftWords,
  TERM_WORDS,
  termText,
  termWidth,
  typingNote,
} from './sentences';
import { SessionContext } from './SessionContext';
import { Working } from './Working';
import { lengthText } from '@/core/units';

/** One sentence, what to type, what it is made of, the field before and after, the working on demand. */
export async function CorrectPage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'correct');
  const { unit } = await preferences();
  const pass = currentPass(session);
  const a = assess(session, pass)!;
  const { plan } = a;
  const workArea = pass.sheet.geometry.spec.workArea;
  const rows = termTable(a.fit, workArea, a.readingNoiseMm);
  const settings = session.rig.settings;
  const views: SettingView[] = plan.settings.changes.map((c) => {
    const setting = settings.find((s) => s.id === c.settingId)!;
    return {
      id: c.settingId,
      name: setting.name,
      unit: setting.unit,
      from: settingFigure(setting, c.from),
      to: settingFigure(setting, c.to),
      changed: c.from !== c.to,
      note: typingNote(setting, c.from, c.to),
      clamped: c.clamped ? `It would need more than the machine takes; the rest stays.` : null,
    };
  });
  const moved = plan.settings.changes.reduce((sum, c) => ({ x: sum.x + c.movesXMm, y: sum.y + c.movesYMm }), {
    x: 0,
    y: 0,
  });
  const leave = plan.decision === 'leave';
  const after =
    leave || !plan.restWorthwhile
      ? plan.settings.leftOver
      : addFields(plan.settings.leftOver, plan.settings.leftOver, -1);
  return (
    <Page
      context={
        <SessionContext
          session={session}
          ratio={a.r95Mm / session.rig.toleranceMm}
          words={STATE_WORDS[a.state]}
        />
      }
    >
      <h1 className="answer">{correctAnswer(a, settings, rows, unit)}</h1>
      <div className="two">
        <div className="stack">
          <OffsetField
            workArea={workArea}
            before={plan.field}
            after={leave ? plan.field : after}
            unit={unit}
          />
          <Working assessment={a} unit={unit} centre={rectCentre(workArea)} />
        </div>
        <div className="stack side">
          {leave && (
            <section className="panel">
              <h2>Leave it</h2>
              <p>
                What was found ({shiftWords(plan.field.exMm, plan.field.eyMm, unit)} at the centre) is within
                twice what reading and loading scatter alone would show. Adjusting on that makes a steady
                machine worse.
              </p>
              <ActButton act="close" sessionId={session.id} words="Leave it and close" main />
            </section>
          )}
          <CorrectDesk
            sessionId={session.id}
            correctionId={pass.correction?.id ?? null}
            sheetLabel={pass.sheet.label}
            leave={leave}
            settings={views}
            moves={movesWords(moved.x, moved.y, unit)}
            restWorthwhile={plan.restWorthwhile}
            rest={pass.correction?.restTransform ?? plan.restTransform}
            whole={pass.correction?.wholeTransform ?? plan.wholeTransform}
            after={{
              settings: lengthText(plan.afterSettings.r95Mm, unit),
              both: lengthText(plan.afterBoth.r95Mm, unit),
              file: lengthText(plan.afterBoth.r95Mm, unit),
            }}
            unit={unit}
          />
          <section className="panel">
            <h2>What it is made of</h2>
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
                  const fixable = row.real && !leave;
                  const inFile = fixable && !row.term.startsWith('shift');
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
                        <span className={`tag ${fixable ? 'tag-do' : 'tag-none'}`}>
                          {!fixable ? 'leave it' : inFile ? 'in the file' : 'correct it'}
                        </span>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </section>
          <ActButton act="reread" sessionId={session.id} words="Back to the readings" />
        </div>
      </div>
    </Page>
  );
}
