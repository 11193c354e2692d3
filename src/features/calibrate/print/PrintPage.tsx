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
import { Recipe, recipeLine } from '@/features/forms/setup/Recipe';
import { recipeCautions } from '@/core/recipe';
import { Fold } from '@/ui/Fold';

import { BarsForm } from './BarsForm';
import { CutFiles, cutFile } from '../CutFiles';
import { SessionPage } from '../SessionPage';
import { SheetOptionsForm } from './SheetOptionsForm';
import { PrintActs } from './PrintActs';
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
  const recipe = pass.recipe ?? session.setup.recipe;
  const formats = sheetFormats(sheet, session.setup);
  const [first = 'dxf'] = formats;
  const corrected = pass.fileTransform ? ', corrected' : '';
  const set = spec.secondSet ? 'set A' : 'it';
  const leave = spec.secondSet ? ', leave it loaded' : '';
  const acts = (
    <div className="stack">
      <PrintActs
        label={sheet.label}
        print={file('pdf', 'print')}
        cut={cutFile(pass, first)}
        cutWords={`Cut file${spec.secondSet ? ', set A' : ''}${corrected}`}
        printed={frozen}
        session={stateOf(session)}
      />
      {pass.fileTransform && (
        <p className="small-print mb-0">
          The cut carries what every cut file of this rig carries: the check tells whether the rig is as it
          was left.
        </p>
      )}
    </div>
  );
  return (
    <SessionPage session={session} ratio={null} words={quick ? 'quick check' : 'not measured yet'}>
      <h1 className="answer">
        {frozen
          ? `Sheet ${sheet.label} is printed and frozen. Cut ${set}${leave}, then read it.`
          : `Print sheet ${sheet.label} at 100 %, cut ${set}${leave}. Then ${spec.readBy === 'short' ? 'two picks' : `read ${stations.length === 1 ? 'one station' : `${stations.length} stations`}`}.`}
      </h1>
      <div className={`two work-first${spec.sheetHeightMm > spec.sheetWidthMm ? ' tall-first' : ''}`}>
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
        <div className="side">
          {!frozen && !fixedLayout ? (
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
            >
              {acts}
            </SheetOptionsForm>
          ) : (
            acts
          )}
          <Fold
            name="recipe"
            words="Recipe"
            usual={recipeLine(recipe) || 'none noted'}
            open={recipeCautions(recipe).length > 0}
          >
            <Recipe recipe={recipe} />
            <p className="small-print mt-2 mb-0">No fitting, no borderless enlarging.</p>
          </Fold>
          <Fold name="file-kinds" words="File kinds" usual={`PDF, ${first.toUpperCase()}`}>
            <div className="d-flex flex-wrap gap-2">
              <a className="btn btn-plain" href={file('svg', 'print')} download>
                SVG to print
              </a>
              <CutFiles pass={pass} formats={formats} />
            </div>
            <p className="small-print mt-2 mb-0">
              {session.setup.fileFrame && sheetFileMap(sheet, session.setup)
                ? `In the file ${frameWords(session.setup.fileFrame, unit)}, as the rig’s page says. `
                : 'The same page as the print, so that the marks agree. '}
            </p>
          </Fold>
          <Fold name="first-edge" words="Edge first out" usual={edgeWords(session.setup.bobFirst)}>
            <FirstEdge setupId={session.setup.id} bobFirst={session.setup.bobFirst} />
          </Fold>
          <Fold
            name="bars"
            words="Check bars"
            usual={(pass.barAcrossMm ?? pass.barAlongMm) ? 'measured' : 'not measured'}
            open={pass.barAcrossMm !== null || pass.barAlongMm !== null}
          >
            <BarsForm
              session={stateOf(session)}
              nominal={barLengthsMm(sheet.geometry)}
              acrossMm={pass.barAcrossMm}
              alongMm={pass.barAlongMm}
              unit={unit}
            />
          </Fold>
          <p className="caution mb-0 mt-3">
            Hands out while it moves, power off to reach in; the machine’s manual comes first.
          </p>
        </div>
      </div>
    </SessionPage>
  );
}

const edgeWords = (bobFirst: boolean | null): string =>
  bobFirst === null ? 'not told' : bobFirst ? 'the bob’s' : 'the other one';

/** The step as it is on offer in the sheet’s unit; combs and rings have the same. */
const onOffer = (stepMm: number, unit: LengthUnit): number | null =>
  COMB_STEPS[unit].find((s) => Math.abs(toMm(s, unit) - stepMm) < SAME) ?? null;
