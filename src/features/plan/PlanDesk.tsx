'use client';

import dynamic from 'next/dynamic';
import { useMemo, useState, useTransition } from 'react';

import type { FollowedKnowledge, RollRig } from '@/core/layout';
import type { LengthUnit } from '@/core/units';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import type { Setup } from '@/server/setups/setup';
import { useHydrated } from '@/ui/useHydrated';
import { useLater } from '@/ui/useLater';
import { Fold } from '@/ui/Fold';
import { STRATEGY_WORDS } from '@/ui/words/planWords';

import { JobFields, MoreFields } from './JobFields';
import { PlanFigures } from './PlanFigures';
import { PlanAnswer, PlanDecision, PlanPictures, PlanReasons, type PlanShown } from './PlanShown';
import { startTheRun } from './actions';
import type { PlanErrors, PlanFields, PlannedFrom, SetupHabits } from './planFields';
import { usePlan } from './usePlan';
import { usePlanDraft } from './usePlanDraft';
import { useItemFile } from './useItemFile';

const WaysTable = dynamic(() => import('./WaysTable').then((m) => m.WaysTable), { ssr: false });

const loadReader = () => import('./readPlan');

/** Fields that stand open. */
const JOB_FIELDS = ['name', 'copies', 'outline', 'itemWidth', 'itemHeight', 'gap', 'tolerance'];

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

  const shown: PlanShown | null =
    planned && chosen && read ? { planned, chosen, request: read.request } : null;

  // What was chosen counts at once, the plan follows.
  const wanted = fields.strategy ?? chosen?.name ?? 'sections';

  const { said, pending, freeze } = useFreeze(setup.id, fields.name, shown, file?.content ?? null, forget);

  return (
    <>
      <PlanAnswer
        shown={shown}
        name={fields.name}
        refused={state.kind === 'refused' && read ? state.message : null}
        readable={typed === null || typed.ok}
        unit={unit}
      />
      <div className="two">
        <div className="stack">
          <JobFields fields={fields} errors={errors} unit={unit} change={change} ready={ready} />
          {shown && (
            <PlanPictures
              {...shown}
              setup={setup}
              rowsShown={fields.rowsPerSection ?? shown.chosen.rowsPerSection}
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
          )}
          <Fold
            name="plan-more"
            words="Media, file and speeds"
            usual={file ? 'with a cut file' : last ? `as ${last.label}` : 'as the setup has them'}
            open={Object.keys(errors).some((name) => !JOB_FIELDS.includes(name))}
          >
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
          </Fold>
          {shown && (
            <Fold name="plan-figures" words="Every figure" usual="media, time, what is allowed">
              <PlanFigures
                plan={shown.planned.plan}
                chosen={shown.chosen}
                expected={shown.planned.expected}
                unit={unit}
              />
            </Fold>
          )}
        </div>
        <div className="stack side">
          {shown && (
            <>
              <PlanDecision
                {...shown}
                hasMarks={rollRig.bothEnds}
                typingStep={Number(fields.typingStep)}
                busy={pending || !ready}
                said={said}
                onFreeze={freeze}
                unit={unit}
              />
              <PlanFolds {...{ shown, sectionsOnRecord, startsWithin, fields, change, unit }} />
            </>
          )}
        </div>
      </div>
    </>
  );
}

/** What else could be done, and why this is. */
function PlanFolds({
  shown,
  sectionsOnRecord,
  startsWithin,
  fields,
  change,
  unit,
}: {
  shown: PlanShown;
  sectionsOnRecord: number;
  startsWithin: string | null;
  fields: PlanFields;
  change: (by: Partial<PlanFields>) => void;
  unit: LengthUnit;
}) {
  return (
    <div>
      <Fold name="plan-ways" words="Other ways to run it" usual={`now ${STRATEGY_WORDS[shown.chosen.name]}`}>
        <WaysTable
          plan={shown.planned.plan}
          profiles={shown.planned.ways}
          toleranceMm={shown.request.toleranceMm}
          chosen={fields.strategy ?? shown.chosen.name}
          onChoose={(strategy) => change({ strategy })}
          unit={unit}
        />
      </Fold>
      <Fold name="plan-why" words="Why so" usual={`${sectionsOnRecord} sections on record`}>
        <PlanReasons
          {...shown}
          sectionsOnRecord={sectionsOnRecord}
          startsWithin={startsWithin}
          onRecommended={
            fields.rowsPerSection === null ? null : () => change({ rowsPerSection: null, strategy: null })
          }
          unit={unit}
        />
      </Fold>
    </div>
  );
}

/** Freezes the plan that is shown; what is not taken says why and stays as it is. */
function useFreeze(
  setupId: string,
  name: string,
  shown: PlanShown | null,
  itemFile: string | null,
  onKept: () => void,
) {
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const freeze = (spoilsAccepted: boolean): void =>
    start(async () => {
      if (!shown) return;
      const { chosen, request } = shown;
      const input = {
        ...{ setupId, name, strategy: chosen.name, itemFile, spoilsAccepted },
        request: { ...request, rowsPerSection: chosen.rowsPerSection },
      };
      const done = await keeping(['run', input], (stamp) => startTheRun(input, stamp));
      if (done?.ok !== false) onKept();
      if (done?.ok === false) setSaid(whyNotDone(done));
    });
  return { said, pending, freeze };
}
