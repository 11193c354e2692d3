import { newJobForScript } from '@/server/api/scriptSheetJobs';
import { guarded } from '@/server/base/apiError';
import { personMissing, requestDeps, scriptActor } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** POST /api/sheet-jobs: see docs/api.md. */
export const POST = guarded(
  'new sheet job',
  async (request: Request) =>
    (await personMissing(request)) ?? newJobForScript(requestDeps(), await scriptActor(), request),
);
