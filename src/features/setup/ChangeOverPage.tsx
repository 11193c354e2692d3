import Link from 'next/link';
import { notFound, redirect } from 'next/navigation';
import { z } from 'zod';

import { lengthText } from '@/core/units';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getRig } from '@/server/rigs/repository';
import { loadBench } from '@/server/setups/bench';
import { getSetup } from '@/server/setups/repository';
import type { Setup } from '@/server/setups/setup';
import { dateText } from '@/clock/dates';
import { laidElsewhere } from '@/ui/words/markWords';
import { sizeWords } from '@/ui/words/sizeWords';

import { ChangeOverCard } from './ChangeOverCard';
import { changeRows, findingsOf, SOURCE_WORDS } from './setup.view';

/** Only a page that sends people here is gone back to. */
const asked = z.object({
  back: z
    .string()
    .regex(/^\/jobs\/[0-9a-f-]{36}\/release$/)
    .optional()
    .catch(undefined),
});

/** “This rig now gets foil”: what to type, what to leave, what to load; confirmed once. */
export async function ChangeOverPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const { back } = asked.parse(await searchParams);
  const id = idSchema.safeParse((await params).id);
  const deps = requestDeps();
  const setup = id.success ? await getSetup(deps, id.data) : null;
  if (!setup) notFound();
  if (setup.archived) redirect(`/setups/${setup.id}`);
  const { unit } = await preferences();
  const rig = (await getRig(deps, setup.rigId))!;
  const last = (await loadBench(deps, setup.rigId)).find((s) => s.setup.id === setup.id)?.history.at(-1);
  const rows = changeRows(setup);
  const type = rows.filter((r) => r.deed === 'type').length;
  const before = rig.setups.find((s) => s.id === rig.onIt?.setupId);
  return (
    <Page
      title={`Change ${rig.name} over to ${setup.media}`}
      context={
        <>
          <Link href={`/rigs/${rig.id}`}>
            <strong>{rig.name}</strong>
          </Link>
          <span className="soft">change over to {setup.media}</span>
        </>
      }
    >
      <h1 className="answer">
        {rig.name} now gets {setup.media}: {typeWords(type, rows.length)}.
      </h1>
      {findingsOf(setup).map((words) => (
        <p key={words} className="notice">
          {words}
        </p>
      ))}
      <div className="two work-first">
        <ChangeOverCard
          key={rows.map((r) => `${r.id} ${r.from} ${r.to}`).join()}
          setupId={setup.id}
          rows={rows}
          media={setup.media}
          back={back}
        />
        <div className="stack side">
          <Load setup={setup} unit={unit} />
          <section className="panel">
            <h2>What is known of it</h2>
            <dl className="facts mb-0">
              <dt>Correction</dt>
              <dd>
                {SOURCE_WORDS[setup.standing.source]}, {dateText(setup.standing.since, 'd MMM yyyy')},{' '}
                {setup.standing.by}
              </dd>
              <dt>Cut files</dt>
              <dd>
                {setup.standing.fileTransform === null
                  ? 'as drawn: they carry nothing'
                  : 'carry a part of the correction: cut corrected files only'}
              </dd>
              <dt>Read last</dt>
              <dd>
                {last
                  ? `${dateText(last.at, 'd MMM yyyy')}: ${lengthText(last.r95Mm, unit)} of ${lengthText(setup.toleranceMm, unit)} allowed`
                  : 'never: prove it before a tight job'}
              </dd>
              <dt>On it so far</dt>
              <dd>{before ? before.media : 'nobody said'}</dd>
            </dl>
          </section>
          <p className="print-only small-print">
            Printed {dateText(deps.now(), 'd MMM yyyy HH:mm')}. It holds until somebody types another figure
            into these machines or calibrates {setup.media}.
          </p>
        </div>
      </div>
    </Page>
  );
}

function typeWords(type: number, all: number): string {
  if (type === 0) return 'nothing to type, load it and look';
  const figures = type === 1 ? 'type one figure' : `type ${type} figures`;
  return type === all ? figures : `${figures}, leave the rest`;
}

function Load({ setup, unit }: { setup: Setup; unit: 'mm' | 'in' }) {
  const { marks, recipe } = setup;
  return (
    <section className="panel">
      <h2>Load</h2>
      <dl className="facts mb-0">
        <dt>Medium</dt>
        <dd>
          {setup.media}, {sizeWords(setup, unit)}
        </dd>
        {setup.tool && (
          <>
            <dt>Tool</dt>
            <dd>{setup.tool.name}</dd>
          </>
        )}
        {setup.mat && (
          <>
            <dt>Mat</dt>
            <dd>{setup.mat.name}</dd>
          </>
        )}
        {setup.mirrored && (
          <>
            <dt>Art</dt>
            <dd>printed reversed</dd>
          </>
        )}
        <dt>Tray</dt>
        <dd>{recipe.tray || 'not noted'}</dd>
        <dt>Face</dt>
        <dd>{recipe.face || 'not noted'}</dd>
        <dt>Print mode</dt>
        <dd>{[recipe.paperType, recipe.quality].filter(Boolean).join(', ') || 'not noted'}</dd>
        <dt>Marks</dt>
        <dd>
          {marks === null
            ? 'none: the media never leaves the machine'
            : `${marks.frame ? 'a closed frame' : `${marks.count}, ${marks.shape} of ${lengthText(marks.sizeMm, unit)}`}, ${marks.leading} leads`}{' '}
          {laidElsewhere(marks, unit)}
        </dd>
      </dl>
    </section>
  );
}
