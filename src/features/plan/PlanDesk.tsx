'use client';

import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import dynamic from 'next/dynamic';
import { useMemo, useState, useTransition } from 'react';

import { rollerRoom, TYPING_STEPS, type FollowedKnowledge, type RollRig } from '@/core/layout';
import { fieldLength, plainLength, type LengthUnit } from '@/core/units';
import type { Rig } from '@/server/rigs/rig';
import { PlumbGlyph } from '@/ui/PlumbGlyph';
import { rollerWarnings } from '@/ui/rollerWords';
import { StateTag } from '@/ui/StateTag';
import { useHydrated } from '@/ui/useHydrated';
import { useLater } from '@/ui/useLater';

import { keeping } from '@/features/forms/keeping';

import { startTheRun } from './actions';
import type { PlanErrors, PlanFields, RigHabits } from './planFields';
import {
  betterIfPossible,
  leftoverWords,
  onceChecked,
  planAnswer,
  planReason,
  planState,
  spoiledWords,
  yieldWords,
} from '@/ui/planWords';
import { PlanFigures } from './PlanFigures';
import { RollDrawing } from '@/ui/picture/RollDrawing';
import { TypeThese } from '@/ui/picture/TypeThese';
import { usePlan } from './usePlan';
import { usePlanDraft } from './usePlanDraft';

// There is nothing to draw before the plan has come from its worker.
const MissChart = dynamic(() => import('./MissChart').then((m) => m.MissChart), { ssr: false });
const WaysTable = dynamic(() => import('./WaysTable').then((m) => m.WaysTable), { ssr: false });
const loadReader = () => import('./readPlan');

interface ItemFile {
  readonly name: string;
  readonly content: string;
  readonly cutLengthMm: number;
}

/** Plans a run: what is typed, dragged or chosen is planned anew at once. */
export function PlanDesk({
  rig,
  rollRig,
  knowledge,
  sectionsOnRecord,
  last,
  from,
  unit,
}: {
  rig: Rig;
  rollRig: RollRig;
  knowledge: FollowedKnowledge;
  sectionsOnRecord: number;
  /** The rig's newest plan. */
  last: { readonly label: string; readonly habits: RigHabits } | null;
  /** The run that is planned again, or whose rest is. */
  from: { readonly key: string; readonly fields: PlanFields } | null;
  unit: LengthUnit;
}) {
  const reader = useLater(loadReader);
  const { fields, setFields, startAfresh, forget } = usePlanDraft(
    rig,
    unit,
    last?.habits ?? null,
    reader,
    from,
  );
  const [file, setFile] = useState<ItemFile | null>(null);
  const [fileSays, setFileSays] = useState('');
  const [said, setSaid] = useState('');
  const [accepted, setAccepted] = useState(false);
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const typed = useMemo(
    () => reader?.readFields(fields, unit, file?.cutLengthMm ?? null) ?? null,
    [reader, fields, unit, file],
  );
  const read = typed?.ok ? typed : null;
  const job = useMemo(() => (reader && read ? reader.jobOf(read.request) : null), [reader, read]);
  const nodes = useMemo(
    () => ({ along: knowledge.along.nodes, across: knowledge.across.nodes }),
    [knowledge],
  );
  const state = usePlan(job, nodes, knowledge, sectionsOnRecord, rollRig, fields.strategy);
  const errors: PlanErrors = typed === null || typed.ok ? {} : typed.errors;
  const change = (by: Partial<PlanFields>): void => setFields((f) => ({ ...f, ...by }));
  const planned = state.kind === 'planned' ? state.planned : null;
  const chosen = planned?.plan.strategies.find((s) => s.name === planned.chosen) ?? null;

  // What was chosen counts at once, the plan follows.
  const wanted = fields.strategy ?? chosen?.name ?? 'sections';

  const takeFile = async (picked: File): Promise<void> => {
    const { fileRefusalText, readCutFile } = await import('@/core/formats/file');
    const content = await picked.text();
    const item = readCutFile(content);
    if (!item.ok) {
      setFileSays(`${picked.name}: ${fileRefusalText(item.refusal)}`);
      return;
    }
    const { bounds, lengthMm } = item.value;
    const size = (mm: number): string => fieldLength(mm, unit);
    setFile({ name: picked.name, content, cutLengthMm: lengthMm });
    setFileSays(
      `${picked.name}: one item of ${plainLength(bounds.x1 - bounds.x0, unit)} by ${plainLength(bounds.y1 - bounds.y0, unit)}.`,
    );
    change({ itemWidth: size(bounds.x1 - bounds.x0), itemHeight: size(bounds.y1 - bounds.y0) });
  };

  const freeze = (): void =>
    start(async () => {
      if (!read || !chosen) return;
      const input = {
        rigId: rig.id,
        name: fields.name,
        strategy: chosen.name,
        request: { ...read.request, rowsPerSection: chosen.rowsPerSection },
        itemFile: file?.content ?? null,
        spoilsAccepted: !chosen.keepsPromise && accepted,
      };
      const done = await keeping(['run', input], (stamp) => startTheRun(input, stamp));
      if (done?.ok !== false) forget();
      if (done?.ok === false) setSaid(Object.values(done.fields)[0] ?? done.message);
    });

  return (
    <>
      <div className="answer-row">
        <h1 className="answer" aria-live="polite">
          {planned && chosen && read
            ? planAnswer(planned.plan, chosen, planned.expected, fields.name, unit)
            : state.kind === 'refused' && read
              ? state.message
              : typed === null || typed.ok
                ? 'Planning the run …'
                : 'Some figures need another look; they are marked below.'}
        </h1>
        {planned && chosen && read && (
          <span className="d-inline-flex align-items-center gap-2 flex-shrink-0">
            <PlumbGlyph
              ratio={onceChecked(planned.expected) / read.request.toleranceMm}
              size={34}
              label="predicted miss over what is allowed"
            />
            <StateTag state={planState(chosen, planned.expected, read.request.toleranceMm)} />
          </span>
        )}
      </div>
      <div className="two">
        <div className="stack">
          {planned && chosen && read && (
            <>
              <RollDrawing
                imposition={planned.plan.imposition}
                sections={chosen.sections}
                markRoomMm={read.request.markRoomMm}
                leadMm={read.request.leadMm}
                tailMm={read.request.tailMm}
                printableWidthMm={read.request.printableWidthMm}
                mediaWidthMm={Math.max(rig.sheetWidthMm, read.request.printableWidthMm)}
                marks={rig.marks}
                rollers={rig.roll}
                bobFirst={rig.bobFirst}
                current={null}
                unit={unit}
              />
              {rig.marks &&
                rollerWarnings(rollerRoom(rig.marks, rig.roll), rig.roll.rollerMm, unit).map((words) => (
                  <p key={words} className="notice mb-0">
                    {words}
                  </p>
                ))}
              <MissChart
                strategy={chosen}
                profile={planned.profile}
                onePiece={planned.onePiece}
                toleranceMm={read.request.toleranceMm}
                rowPitchMm={planned.plan.imposition.itemHeightMm + planned.plan.imposition.gapMm}
                rows={planned.plan.imposition.rows}
                rowsShown={fields.rowsPerSection ?? chosen.rowsPerSection}
                onRows={
                  rollRig.registers
                    ? (rows) =>
                        change({
                          rowsPerSection: rows,
                          strategy: wanted.startsWith('sections') ? wanted : 'sections',
                        })
                    : null
                }
                unit={unit}
              />
            </>
          )}
          <JobFields
            fields={fields}
            errors={errors}
            unit={unit}
            rig={rig}
            change={change}
            fileSays={fileSays}
            hasFile={file !== null}
            onFile={(picked) => void takeFile(picked)}
            onNoFile={() => {
              setFile(null);
              setFileSays('');
            }}
            like={last?.label ?? null}
            onAfresh={() => {
              startAfresh();
              setFile(null);
              setFileSays('');
            }}
            ready={ready}
          />
          {planned && chosen && read && (
            <PlanFigures plan={planned.plan} chosen={chosen} expected={planned.expected} unit={unit} />
          )}
        </div>
        <div className="stack side">
          {planned && chosen && read && (
            <>
              <TypeThese
                section={chosen.sections[0]!}
                lastSection={
                  chosen.sections.at(-1)!.copies === chosen.sections[0]!.copies
                    ? null
                    : chosen.sections.at(-1)!
                }
                imposition={planned.plan.imposition}
                markRoomMm={read.request.markRoomMm}
                printableWidthMm={read.request.printableWidthMm}
                hasMarks={rollRig.bothEnds}
                unit={unit}
                step={Number(fields.typingStep)}
              />
              {!chosen.keepsPromise && (
                <label className="d-flex gap-2 align-items-start">
                  <FormCheckInput
                    type="checkbox"
                    className="mt-1 flex-shrink-0"
                    checked={accepted}
                    onChange={(event) => setAccepted(event.target.checked)}
                  />
                  <span>
                    Run it although about {spoiledWords(chosen, planned.plan.imposition.copies)} would be
                    spoiled
                  </span>
                </label>
              )}
              <Button
                variant="main"
                disabled={pending || !ready || chosen.missing !== null || (!chosen.keepsPromise && !accepted)}
                onClick={freeze}
              >
                Freeze this plan and start the run
              </Button>
              {said && (
                <span className="field-error" role="alert">
                  {said}
                </span>
              )}
              <WaysTable
                plan={planned.plan}
                profiles={planned.ways}
                toleranceMm={read.request.toleranceMm}
                chosen={fields.strategy ?? chosen.name}
                onChoose={(strategy) => change({ strategy })}
                unit={unit}
              />
              <section className="panel">
                <p className="mb-2">
                  {planReason(planned.plan, chosen, read.request.promise, sectionsOnRecord)}
                </p>
                {[
                  betterIfPossible(planned.plan, chosen, unit),
                  leftoverWords(planned.plan),
                  planned.plan.imposition.turned
                    ? 'Items lie turned by 90° anticlockwise, seen from the printed side: it saves media.'
                    : null,
                  planned.fromRoll === null || read.request.rollLeftMm === undefined
                    ? null
                    : yieldWords(planned.fromRoll, read.request.rollLeftMm, unit),
                ]
                  .filter((words) => words !== null)
                  .map((words) => (
                    <p key={words} className="mb-2">
                      {words}
                    </p>
                  ))}
                {fields.rowsPerSection !== null && (
                  <Button
                    variant="link"
                    className="p-0"
                    onClick={() => change({ rowsPerSection: null, strategy: null })}
                  >
                    Back to the recommended rows
                  </Button>
                )}
              </section>
            </>
          )}
        </div>
      </div>
    </>
  );
}

function JobFields({
  fields,
  errors,
  unit,
  rig,
  change,
  fileSays,
  hasFile,
  onFile,
  onNoFile,
  like,
  onAfresh,
  ready,
}: {
  fields: PlanFields;
  errors: PlanErrors;
  unit: LengthUnit;
  rig: Rig;
  change: (by: Partial<PlanFields>) => void;
  fileSays: string;
  hasFile: boolean;
  onFile: (file: File) => void;
  onNoFile: () => void;
  /** The run whose speeds the form opens with. */
  like: string | null;
  onAfresh: () => void;
  ready: boolean;
}) {
  const text = (name: keyof PlanFields, label: string, hint = '', width = 'col-6 col-lg-3') => (
    <div className={width}>
      <FormLabel htmlFor={`plan-${name}`}>{label}</FormLabel>
      <FormControl
        id={`plan-${name}`}
        autoComplete="off"
        value={String(fields[name] ?? '')}
        aria-invalid={errors[name] !== undefined}
        aria-describedby={`plan-${name}-say`}
        onChange={(event) =>
          change({
            [name]: event.target.value,
            // Rows that were dragged belong to the sizes they were dragged for.
            ...(name === 'itemHeight' || name === 'itemWidth' || name === 'copies'
              ? { rowsPerSection: null }
              : {}),
          })
        }
      />
      <span id={`plan-${name}-say`} className={errors[name] ? 'field-error' : 'small-print'}>
        {errors[name] ?? hint}
      </span>
    </div>
  );
  const tick = (name: 'mayTurn' | 'centreLastRow' | 'correctCreep' | 'oneMachine', label: string) => (
    <div className="col-md-6 d-flex align-items-center gap-2" style={{ minHeight: 44 }}>
      <FormCheckInput
        id={`plan-${name}`}
        type="checkbox"
        className="mt-0"
        checked={fields[name]}
        onChange={(event) => change({ [name]: event.target.checked })}
      />
      <label htmlFor={`plan-${name}`}>{label}</label>
    </div>
  );
  return (
    <fieldset className="panel" disabled={!ready}>
      <legend className="h2 fs-6 fw-bold">The job</legend>
      <div className="row g-3">
        {text('name', 'Job', '', 'col-12 col-lg-6')}
        {text('copies', 'Copies')}
        <div className="col-6 col-lg-3">
          <FormLabel htmlFor="plan-outline">Outline</FormLabel>
          <FormSelect
            id="plan-outline"
            value={fields.outline}
            onChange={(event) => change({ outline: event.target.value as PlanFields['outline'] })}
          >
            <option value="rectangle">straight sides</option>
            <option value="round">round or free</option>
          </FormSelect>
        </div>
        {text('itemWidth', `Item width, ${unit}`, 'across the media')}
        {text('itemHeight', `Item height, ${unit}`, 'along the feed')}
        {text('gap', `Gap, ${unit}`, 'between items')}
        {text('tolerance', `May miss by, ${unit}`, 'bleed, or uneven border')}
        {text(
          'printableWidth',
          `Printable width, ${unit}`,
          `media: ${plainLength(rig.sheetWidthMm, unit)} overall`,
        )}
        {text('rollLeft', `Left on the roll, ${unit}`, 'empty: not looked at')}
        {text('promise', 'Spoiled at most, %', 'of the items')}
        <div className="col-6 col-lg-3">
          <FormLabel htmlFor="plan-typingStep">Typed in steps of</FormLabel>
          <FormSelect
            id="plan-typingStep"
            value={fields.typingStep}
            onChange={(event) => change({ typingStep: event.target.value })}
          >
            {TYPING_STEPS[unit].map((step) => (
              <option key={step} value={step}>
                {step} {unit}
              </option>
            ))}
          </FormSelect>
        </div>
        <div className="col-12">
          <FormLabel htmlFor="plan-file">Cut file of one item</FormLabel>
          <FormControl
            id="plan-file"
            type="file"
            accept=".svg,.dxf,.hpgl,.plt"
            aria-describedby="plan-file-say"
            onChange={(event) => {
              const { files } = event.target as HTMLInputElement;
              if (files?.[0]) onFile(files[0]);
            }}
          />
          <span id="plan-file-say" className="small-print" role="status">
            {fileSays || 'SVG, DXF or HPGL; without one the item is cut along its outline'}
            {hasFile && (
              <>
                {' '}
                <Button variant="link" className="p-0 align-baseline" onClick={onNoFile}>
                  Cut along the outline instead
                </Button>
              </>
            )}
          </span>
        </div>
      </div>
      <details className="working">
        <summary>Margins, marks, lanes and speeds</summary>
        <div className="row g-3">
          {text('markRoom', `Mark to first row, ${unit}`, 'and last row to mark')}
          {text('between', `Between sections, ${unit}`)}
          {text('lead', `Lead, ${unit}`, 'rollers and a test cut')}
          {text('tail', `Tail, ${unit}`, 'keeps the sensor covered')}
          {text('lanes', 'Lanes', 'side by side, cut apart')}
          {text('laneGap', `Between lanes, ${unit}`)}
          {text('printSpeed', 'Print, m an hour')}
          {text('cutSpeed', 'Cut, mm a second')}
          {text('registerTime', 'Load and register, s')}
          {text('wait', 'Wait, min', 'drying, laminating')}
          {tick('mayTurn', 'items may lie turned by 90°')}
          {tick('centreLastRow', 'a last row that is not full stands in the middle')}
          {tick('correctCreep', 'the cut files take the known creep out')}
          {tick('oneMachine', 'one machine prints and cuts')}
        </div>
        {like !== null && (
          <p className="small-print mb-0 mt-2">
            A fresh form has its speeds from {like}, this rig’s last plan.
          </p>
        )}
      </details>
      <Button variant="link" className="p-0 mt-2" onClick={onAfresh}>
        Start afresh
      </Button>
    </fieldset>
  );
}
