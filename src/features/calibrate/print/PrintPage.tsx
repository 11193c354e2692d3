import { SAME } from '@/core/tolerance';
import { frameWords } from '@/core/daily';
import { barLengthsMm, COMB_STEPS, layoutAreaOf } from '@/core/proof';
import { markWarnings } from '@/core/marks';
import { type LengthUnit, toMm } from '@/core/units';
import { preferences } from '@/server/base/context';
import { currentPass, stateOf } from '@/server/sessions/session';
import { sheetCutLayer, sheetFileMap, sheetFormats, sheetPrintLayer } from '@/server/sessions/sheets';

import { sessionAt } from '../loadSession';
import { FirstEdge } from '@/features/forms/setup/FirstEdge';
import { Recipe } from '@/features/forms/setup/Recipe';

import { BarsForm } from './BarsForm';
import { SessionPage } from '../SessionPage';
import { SheetOptionsForm } from './SheetOptionsForm';
import { ActButton } from '@/features/forms/acts/ActButton';
import { SheetPreview } from './SheetPreview';
import { laidElsewhere } from '@/ui/words/markWords';

/** The proof sheet: laid out, looked at, printed, cut. */
export async function PrintPage({ params }: { params: Promise<{ id: string }> }) {
  const session = await sessionAt((await params).id, 'print');
  const { unit } = await preferences();
  const pass = currentPass(session);
  const { sheet, stations } = pass;
  const { spec } = sheet.geometry;
  const frozen = sheet.printedAt !== null;
  const file = (format: string, layer: string, set?: number): string =>
    `/api/proof-sheets/${sheet.label}.${format}?layer=${layer}${set ? `&set=${set}&pass=${pass.id}` : ''}`;
  const quick = session.kind === 'quick-check';
  const elsewhere = laidElsewhere(spec.marks, unit);
  const fixedLayout = session.kind !== 'calibration';
  return (
    <SessionPage session={session} ratio={null} words={quick ? 'quick check' : 'not measured yet'}>
      <h1 className="answer">
        {frozen
          ? `Sheet ${sheet.label} has been printed and is frozen. Cut set A, leave it loaded, and read it.`
          : `Print sheet ${sheet.label} at 100 % on ${session.setup.media}, cut ${spec.secondSet ? 'set A' : 'it'}${spec.secondSet ? ', and do not unload' : ''}. Then read ${stations.length === 1 ? 'one station' : `${stations.length} stations`}.`}
      </h1>
      <div className="two">
        <div>
          {spec.marks &&
            markWarnings(spec.marks, spec).map((words) => (
              <p key={words} className="notice">
                {words}
              </p>
            ))}
          {elsewhere && <p className="notice">{elsewhere}</p>}
          <SheetPreview print={sheetPrintLayer(sheet)} cuts={sheetCutLayer(sheet, 1)} unit={unit} />
        </div>
        <div className="stack side">
          <section className="panel">
            <h2>1. Print it</h2>
            <div className="d-flex flex-wrap gap-2">
              <a className="btn btn-plain" href={file('pdf', 'print')} target="_blank" rel="noreferrer">
                PDF to print
              </a>
              <a className="btn btn-plain" href={file('svg', 'print')} download>
                SVG to print
              </a>
            </div>
            <Recipe recipe={pass.recipe ?? session.setup.recipe} />
            <p className="small-print mt-2 mb-0">No fitting, no borderless enlarging.</p>
            <FirstEdge setupId={session.setup.id} bobFirst={session.setup.bobFirst} />
            <details className="working" open={pass.barAcrossMm !== null || pass.barAlongMm !== null}>
              <summary>Measure both check bars</summary>
              <BarsForm
                session={stateOf(session)}
                nominal={barLengthsMm(sheet.geometry)}
                acrossMm={pass.barAcrossMm}
                alongMm={pass.barAlongMm}
                unit={unit}
              />
            </details>
          </section>
          <section className="panel">
            <h2>2. Cut {spec.secondSet ? 'set A only' : 'it'}</h2>
            <div className="d-flex flex-wrap gap-2">
              {sheetFormats(sheet, session.setup).map((format) => (
                <a key={format} className="btn btn-plain" href={file(format, 'cut', 1)} download>
                  {format.toUpperCase()} to cut{pass.fileTransform ? ', corrected' : ''}
                </a>
              ))}
            </div>
            {pass.fileTransform && (
              <p className="small-print mt-2 mb-0">
                The cut carries the correction that every cut file of this rig carries, so that the check
                tells whether the rig is as it was left.
              </p>
            )}
            <p className="small-print mt-2 mb-3">
              {session.setup.fileFrame && sheetFileMap(sheet, session.setup)
                ? `In the file ${frameWords(session.setup.fileFrame, unit)}, as the rig’s page says. `
                : 'The same page as the print, so that the marks agree. '}
              {spec.secondSet && 'Keep the sheet loaded: set B proves the correction on it.'}
            </p>
            <ActButton act="cut" session={stateOf(session)} words="It is printed and cut: read it" main />
            <p className="caution mb-0 mt-3">
              Keep hands, hair and sleeves clear of blades, carriage and rollers; power off before reaching
              in. The machine’s manual comes first.
            </p>
          </section>
          {!frozen && !fixedLayout && (
            <SheetOptionsForm
              key={`${spec.columns}-${spec.rows}-${spec.secondSet}-${spec.unit}-${spec.stepMm}-${spec.rings?.stepMm}-${spec.bothWays}-${spec.readBy}`}
              session={stateOf(session)}
              unit={unit}
              current={{
                columns: spec.columns,
                rows: spec.rows,
                secondSet: spec.secondSet,
                unit: spec.unit,
                step: onOffer(spec.stepMm, spec.unit) ?? COMB_STEPS[spec.unit][1]!,
                bothWays: spec.bothWays ?? false,
                readBy: spec.readBy ?? 'comb',
                ringStep: spec.rings ? onOffer(spec.rings.stepMm, spec.unit) : null,
              }}
              area={layoutAreaOf(session.setup)}
            />
          )}
        </div>
      </div>
    </SessionPage>
  );
}

/** The step as it is on offer in the sheet’s unit; combs and rings have the same. */
const onOffer = (stepMm: number, unit: LengthUnit): number | null =>
  COMB_STEPS[unit].find((s) => Math.abs(toMm(s, unit) - stepMm) < SAME) ?? null;
