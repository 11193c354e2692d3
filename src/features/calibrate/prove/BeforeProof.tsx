import type { CorrectionWay } from '@/core/setup';
import { fixed, placesOfStep } from '@/core/units';
import { ActButton } from '@/features/forms/acts/ActButton';
import { CutFiles } from '../CutFiles';
import type { Pass, Session, SessionState } from '@/server/sessions/session';
import type { OwnPage } from '@/server/setups/ownPage';
import { Fold } from '@/ui/Fold';
import { SheetMap } from '@/ui/pictures/SheetMap';

import { ownPageNotes } from './ownPage.view';

/** What is so, or to be done, before the second set is cut. */
function beforeCutting(done: CorrectionWay | 'leave' | null, typed: string): string {
  if (done === 'leave') return 'Change nothing and let the machine read its marks once more: ';
  return done === 'file' || typed === '' ? '' : `The machine shows ${typed}: `;
}

/** “Do not unload yet”: the second set is cut on the same sheet. */
export function BeforeProof({
  session,
  state,
  pass,
  previous,
  formats,
  run,
}: {
  session: Session;
  state: SessionState;
  pass: Pass;
  previous: Pass | null;
  /** In which its cut file can be had. */
  formats: readonly string[];
  /** The run of the machine's own page that is proved. */
  run: OwnPage | null;
}) {
  const typed = session.setup.settings
    .map((s) => `${s.name} ${fixed(s.value, placesOfStep(s.step))}`)
    .join(' and ');
  const inFile = pass.fileTransform !== null;
  return (
    <>
      <h1 className="answer">
        Do not unload yet. {beforeCutting(previous?.correction?.done ?? null, typed)}cut set B on the same
        sheet, then read it.
      </h1>
      {run &&
        ownPageNotes(run, session.setup.media).map((words) => (
          <p key={words} className="notice">
            {words}
          </p>
        ))}
      <div className="two">
        <div style={{ maxWidth: 400 }}>
          <SheetMap
            widthMm={pass.sheet.geometry.spec.sheetWidthMm}
            heightMm={pass.sheet.geometry.spec.sheetHeightMm}
            height={350}
            named
            unit="mm"
            stations={pass.stations.map((s) => ({
              id: s.id,
              xMm: s.centre.x,
              yMm: s.centre.y,
              dxMm: null,
              dyMm: null,
              current: false,
            }))}
          />
        </div>
        <div className="stack side">
          <section className="panel">
            <h2>Cut set B</h2>
            <div className="d-flex flex-wrap gap-2 mb-2">
              <CutFiles pass={pass} formats={formats} />
            </div>
            <p className="small-print">
              {inFile ? 'The file carries what the settings do not.' : 'The file is as drawn.'}
            </p>
            <ActButton act="cut" session={state} words="Set B is cut: read it" main />
            <p className="caution mb-0 mt-3">Hands stay out of moving machines.</p>
          </section>
          <Fold name="prove-not-now" words="Close without proof" usual="or unloaded already?">
            <div className="stack">
              <p className="small-print mb-0">
                Unloaded already? Load it again just as before; the proof then includes that loading. Without
                a proof nobody knows whether the correction holds. Say what shall stand until one is made.
              </p>
              <ActButton act="accept" session={state} words="Close without proof, use the new one" />
              <ActButton act="close" session={state} words="Close without proof, keep the old correction" />
            </div>
          </Fold>
        </div>
      </div>
    </>
  );
}
