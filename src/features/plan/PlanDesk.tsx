'use client';

import dynamic from 'next/dynamic';
import { useMemo, useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';

import { type FollowedKnowledge, rollerRoom, type RollRig } from '@/core/layout';
import { type LengthUnit } from '@/core/units';
import { keeping } from '@/features/forms/keeping';
import type { Setup } from '@/server/setups/setup';
import { PlumbGlyph } from '@/ui/PlumbGlyph';
import { StateTag } from '@/ui/StateTag';
import { RollDrawing } from '@/ui/picture/RollDrawing';
import { TypeThese } from '@/ui/picture/TypeThese';
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
import { rollerWarnings } from '@/ui/rollerWords';
import { useHydrated } from '@/ui/useHydrated';
import { useLater } from '@/ui/useLater';

import { JobFields, MoreFields } from './JobFields';
import { PlanFigures } from './PlanFigures';
import { startTheRun } from './actions';
import type { PlanErrors, PlanFields, PlannedFrom, SetupHabits } from './planFields';
import { usePlan } from './usePlan';
import { usePlanDraft } from './usePlanDraft';
import { useItemFile } from './useItemFile';

// There is nothing to draw before the plan has come from its worker.
const MissChart = dynamic(() => import('./MissChart').then((m) => m.MissChart), { ssr: false });

const WaysTable = dynamic(() => import('./WaysTable').then((m) => m.WaysTable), { ssr: false });

const loadReader = () => import('./readPlan');

/** Plans a run: what is typed, dragged or chosen is planned anew at once. */
export function PlanDesk({
  setup,
  rollRig,
  knowledge,
  sectionsOnRecord,
  start: startsWithin,
  last,
  from,
  unit,
}: {
  setup: Setup;
  rollRig: RollRig;
  knowledge: FollowedKnowledge;
  sectionsOnRecord: number;
  /** How far out a run starts, and who says so. */
  start: string | null;
  /** The rig's newest plan. */
  last: { readonly label: string; readonly habits: SetupHabits } | null;
  /** The run that is planned again, or whose rest is. */
  from: PlannedFrom | null;
  unit: LengthUnit;
}) {
  const reader = useLater(loadReader);
  const { fields, setFields, startAfresh, forget } = usePlanDraft(
    setup,
    unit,
    last?.habits ?? null,
    reader,
    from,
  );
  const change = (by: Partial<PlanFields>): void => setFields((f) => ({ ...f, ...by }));
  const item = useItemFile(from?.item ?? null, unit, change);
  const { file } = item;
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
  const planned = state.kind === 'planned' ? state.planned : null;
  const chosen = planned?.plan.strategies.find((s) => s.name === planned.chosen) ?? null;

  // What was chosen counts at once, the plan follows.
  const wanted = fields.strategy ?? chosen?.name ?? 'sections';

  const freeze = (): void =>
    start(async () => {
      if (!read || !chosen) return;
      const input = {
        setupId: setup.id,
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
          <JobFields fields={fields} errors={errors} unit={unit} change={change} ready={ready} />
          {planned && chosen && read && (
            <>
              <RollDrawing
                imposition={planned.plan.imposition}
                sections={chosen.sections}
                markRoomMm={read.request.markRoomMm}
                leadMm={read.request.leadMm}
                tailMm={read.request.tailMm}
                printableWidthMm={read.request.printableWidthMm}
                mediaWidthMm={Math.max(setup.sheetWidthMm, read.request.printableWidthMm)}
                marks={setup.marks}
                rollers={setup.roll}
                bobFirst={setup.bobFirst}
                current={null}
                unit={unit}
              />
              {setup.marks &&
                rollerWarnings(rollerRoom(setup.marks, setup.roll), setup.roll.rollerMm, unit).map(
                  (words) => (
                    <p key={words} className="notice mb-0">
                      {words}
                    </p>
                  ),
                )}
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
          <MoreFields
            fields={fields}
            errors={errors}
            unit={unit}
            setup={setup}
            change={change}
            fileSays={item.says}
            hasFile={file !== null}
            onFile={(picked) => void item.take(picked)}
            onNoFile={item.drop}
            like={last?.label ?? null}
            onAfresh={() => {
              startAfresh();
              item.startAfresh();
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
                  startsWithin,
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
