import Link from 'next/link';
import { notFound } from 'next/navigation';

import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getRun } from '@/server/runs/repository';
import { witnessesIn } from '@/server/runs/sectionFile';

import { Page } from '../../frame/Page';
import { StripDesk } from './StripDesk';

/** The witnesses of a section that was cut, read one after the other; then back to the run. */
export async function StripPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}) {
  const id = idSchema.safeParse((await params).id);
  const run = id.success ? await getRun(requestDeps(), id.data) : null;
  if (run?.witnessXMm == null) notFound();
  const { unit } = await preferences();
  const cut = run.sections.filter((s) => s.state !== 'waiting').map((s) => s.index);
  const asked = Number((await searchParams).section);
  const section = cut.includes(asked) ? asked : cut.at(-1);
  const stations = section ? witnessesIn(run, section) : [];
  const read = (place: string): string[] =>
    run.checks.flatMap((c) => (c.section === section && c.place === place && c.way === 'comb' ? [c.id] : []));
  const station = stations.find((s) => read(s.place).length === 0) ?? null;
  return (
    <Page
      title={`Witnesses of ${run.label}`}
      context={
        <>
          <strong>
            {run.label} {run.name}
          </strong>
          <span className="soft">
            {run.setup.name}, {run.setup.media}
          </span>
          <Link href={`/jobs/${run.id}/run`}>Back to the run</Link>
        </>
      }
    >
      {section && station && run.stage === 'running' ? (
        <StripDesk
          key={`${section} ${station.place}`}
          runId={run.id}
          section={section}
          station={station}
          replaces={run.checks.flatMap((c) =>
            c.section === section && c.place === station.place ? [c.id] : [],
          )}
          unit={unit}
        />
      ) : (
        <>
          <h1 className="answer">{doneWords(section, stations.length, run.stage)}</h1>
          <Link className="btn btn-main" href={`/jobs/${run.id}/run`}>
            Back to the run
          </Link>
        </>
      )}
    </Page>
  );
}

function doneWords(section: number | undefined, witnesses: number, stage: string): string {
  if (stage !== 'running') return 'The run is not running: its witnesses are read while it runs.';
  if (!section) return 'No section is cut yet: there is nothing to read.';
  return witnesses === 0
    ? `Section ${section} is too short for a witness. Check its rows by hand.`
    : `The witnesses of section ${section} are read and kept as checks of its rows.`;
}
