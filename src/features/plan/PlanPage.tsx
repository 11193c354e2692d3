import { setupsByRig, setupWords } from '@/core/setup/inLists';
import { type AxisKnowledge } from '@/server/drift/setupDrift';
import Link from 'next/link';
import { z } from 'zod';

import { preferences, requestDeps } from '@/server/base/context';
import { shownDrift } from '@/server/drift/setupDrift';
import { listRuns } from '@/server/runs/listRuns';
import { listSetups } from '@/server/setups/repository';
import { lastPlanOn } from '@/server/runs/listRuns';
import { copiesLeft } from '@/server/runs/run';
import { getRun } from '@/server/runs/repository';
import { rollRigOf } from '@/server/runs/startRun';

import { stateOfSetup } from '@/server/setups/bench';

import { Page } from '@/features/frame/Page';
import { SetupStands } from '@/features/forms/setup/SetupStands';
import { startWords } from '@/ui/words/planWords';

import { PlanDesk } from './PlanDesk';
import { habitsOf, plannedFrom } from './planFields';
import { SetupChoice } from './SetupChoice';

const uuid = z.uuid().optional().catch(undefined);
const wanted = z.object({ setup: uuid, again: uuid, rest: uuid });

const followedAxis = ({ nodes, unitVarMm2, startSdMm }: AxisKnowledge) => ({ nodes, unitVarMm2, startSdMm });

/** A run is planned: for a rig, from what its log says of its drift. */
export async function PlanPage({
  searchParams,
}: {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const deps = requestDeps();
  const { unit } = await preferences();
  const { setup: setupId, again, rest } = wanted.parse(await searchParams);
  const earlier = again || rest ? await getRun(deps, (rest ?? again)!) : null;
  const setups = await listSetups(deps);
  // Without a choice the widest media: rolls are wide.
  const setup =
    setups.find((r) => r.id === (earlier?.setup.id ?? setupId)) ??
    [...setups].sort((a, b) => b.sheetWidthMm - a.sheetWidthMm)[0] ??
    null;
  // A rig that is off the bench plans nothing; the form then opens for another, as for anybody.
  const same = earlier?.setup.id === setup?.id ? earlier : null;
  const from = same && setup && plannedFrom(same, rest ? copiesLeft(same) : null, setup, unit);
  const drift = setup && (await shownDrift(deps, setup.id));
  const last = setup && (await lastPlanOn(deps, setup.id));
  const runs = await listRuns(deps, { show: 'open', sort: 'newest', page: 1 });
  const onRig = new Set(setups.filter((s) => s.rigId === setup?.rigId).map((s) => s.id));
  const open = runs.rows.find((r) => onRig.has(r.setupId));
  if (!setup || !drift)
    return (
      <Page title="Plan a run" context={<strong>Plan a run</strong>}>
        <h1 className="answer">A run is planned for a rig. Add the rig first.</h1>
        <Link className="btn btn-main" href="/rigs/new">
          Add a rig
        </Link>
      </Page>
    );
  return (
    <Page
      title={`Plan a run on ${setup.media}`}
      context={
        <>
          <SetupChoice
            setups={setupsByRig(setups).map((s) => ({ id: s.id, words: setupWords(s) }))}
            current={setup.id}
          />
          <span className="soft">
            {drift.sectionsOnRecord} sections on record
            {same && `; ${rest ? 'the rest of' : 'as'} ${same.label}`}
          </span>
          <SetupStands stands={await stateOfSetup(deps, setup)} />
        </>
      }
    >
      <PlanDesk
        key={`${setup.id} ${rest ?? again ?? ''}`}
        setup={setup}
        rollRig={rollRigOf(setup)}
        knowledge={{ along: followedAxis(drift.along), across: followedAxis(drift.across) }}
        sectionsOnRecord={drift.sectionsOnRecord}
        start={startWords([drift.along, drift.across], unit)}
        from={from}
        last={last && { label: last.label, habits: habitsOf(last.request) }}
        unit={unit}
      />
      {open && (
        <p className="small-print mt-3 mb-0">
          <Link href={`/jobs/${open.id}`}>{open.label}</Link> is open on this rig, {open.done} of{' '}
          {open.sections} sections cut.
        </p>
      )}
    </Page>
  );
}
