import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { download } from '@/server/base/download';
import { getRunFile } from '@/server/runs/runFiles';
import { idSchema } from '@/server/base/shapes';
import { mediaTypeOf } from '@/core/drawing/formats';

export const dynamic = 'force-dynamic';

/** GET: a section's cut file as it was made, from the log. */
export const GET = guarded(
  'run file',
  async (_: Request, { params }: { params: Promise<{ id: string; file: string }> }) => {
    const given = await params;
    const [run, file] = [idSchema.safeParse(given.id), idSchema.safeParse(given.file)];
    const found = run.success && file.success ? await getRunFile(requestDeps(), run.data, file.data) : null;
    if (!found) return apiError(404, 'no-such-file', 'No file of this id is in the log of this run.');
    return download(found.content, mediaTypeOf(found.format), found.fileName);
  },
);
