import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { download } from '@/server/base/download';
import { correctedFileById } from '@/server/logbook/logbook';
import { idSchema } from '@/server/base/shapes';
import { mediaTypeOf, formatNamed } from '@/core/drawing/formats';

export const dynamic = 'force-dynamic';

/** GET: a corrected cut file as it was made, from the log. */
export const GET = guarded(
  'corrected file',
  async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
    const id = idSchema.safeParse((await params).id);
    const found = id.success ? await correctedFileById(requestDeps(), id.data) : null;
    if (!found) return apiError(404, 'no-such-file', 'No file of this id is in the log.');
    const name = found.fileName.replace(/[^\w.-]+/g, '_');
    return download(found.content, mediaTypeOf(formatNamed(name) ?? 'svg'), name);
  },
);
