import { jobFile } from '@/server/api/scriptSheetJobs';
import { guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** GET /api/sheet-jobs/ID/print.pdf, /cut.svg: see docs/api.md. */
export const GET = guarded(
  'file of a sheet job',
  async (request: Request, { params }: { params: Promise<{ id: string; file: string }> }) => {
    const { id, file } = await params;
    return jobFile(requestDeps(), id, file, new URL(request.url).searchParams);
  },
);
