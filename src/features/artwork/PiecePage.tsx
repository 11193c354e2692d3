import Link from 'next/link';
import { notFound } from 'next/navigation';

import { freeRooms } from '@/core/sheetJob';
import { Page } from '@/features/frame/Page';
import { preferences, requestDeps } from '@/server/base/context';
import { idSchema } from '@/server/base/shapes';
import { getJob } from '@/server/sheetJobs/repository';

import type { Shape } from './AddPiece';
import { OutlineDesk, type Purpose } from './OutlineDesk';

/** Artwork more for a draft, or, with a letter, another line for a piece of it. */
export async function PiecePage({ params }: { params: Promise<{ id: string; piece?: string }> }) {
  const { id, piece: letter } = await params;
  const jobId = idSchema.safeParse(id);
  const job = jobId.success ? await getJob(requestDeps(), jobId.data) : null;
  if (job?.stage !== 'draft') notFound();
  const { unit } = await preferences();
  const told = { id: job.id, version: job.version, label: job.label };
  const rooms = freeRooms(job.geometry.sheet);
  const made = job.pieces.find((p) => p.id === letter);
  if (letter !== undefined && !made) notFound();
  const purpose: Purpose = made
    ? { kind: 'line', job: told, piece: made.id, name: made.art.name, recipe: made.recipe.line, rooms }
    : {
        ...{ kind: 'piece', job: told, rooms },
        shapes: job.geometry.pieces.map((p): Shape => ({
          id: p.id,
          name: job.pieces.find((m) => m.id === p.id)!.art.name,
          line: { trace: p.picture, lines: p.lines },
        })),
      };
  const title = made ? `Line of piece ${made.id}, ${job.label}` : `Artwork for ${job.label}`;
  return (
    <Page
      title={title}
      context={
        <>
          <Link href="/jobs">
            <strong>Jobs</strong>
          </Link>
          <Link href={`/jobs/sheets/${job.id}`}>
            {job.label} {job.name}
          </Link>
          <span className="soft">{made ? `line of piece ${made.id}` : 'more artwork'}</span>
        </>
      }
    >
      <OutlineDesk purpose={purpose} unit={unit} />
    </Page>
  );
}
