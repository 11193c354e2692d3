import { newJobForScript } from '@/server/api/scriptSheetJobs';
import { apiError, guarded } from '@/server/base/apiError';
import { remembered, requestDeps, scriptActor } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** POST /api/sheet-jobs: see docs/api.md. */
export const POST = guarded('new sheet job', async (request: Request) => {
  // A person at a page says who it is; a script need not.
  if (request.headers.has('sec-fetch-site') && (await remembered()).who === '')
    return apiError(403, 'no-initials', 'Say who you are: initials at the top of the page.');
  return newJobForScript(requestDeps(), await scriptActor(), request);
});
