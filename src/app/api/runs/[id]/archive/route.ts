import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps, scriptActor } from '@/server/base/context';
import { download } from '@/server/base/download';
import { runArchive } from '@/server/runs/runFiles';
import { idSchema } from '@/server/base/shapes';

export const dynamic = 'force-dynamic';

/** GET: every section's cut file of a run in one archive. */
export const GET = guarded(
  'run archive',
  async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
    const id = idSchema.safeParse((await params).id);
    const made = id.success ? await runArchive(requestDeps(), await scriptActor(), id.data) : null;
    if (made?.ok) return download(made.value.bytes, 'application/zip', made.value.fileName);
    return made?.refusal.code === 'refused'
      ? apiError(409, 'not-released', made.refusal.message)
      : apiError(404, 'no-such-run', 'No run of this id is in the log.');
  },
);
