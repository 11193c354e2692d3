import { newPieceForScript } from '@/server/api/scriptSheetJobs';
import { guarded } from '@/server/base/apiError';
import { personMissing, requestDeps, scriptActor } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** POST /api/sheet-jobs/ID/pieces: see docs/api.md. */
export const POST = guarded(
  'new piece of a sheet job',
  async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
    (await personMissing(request)) ??
    newPieceForScript(requestDeps(), await scriptActor(), (await params).id, request),
);
