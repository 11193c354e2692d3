import { chartCsv } from '@/server/api/scriptChart';
import { guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';

export const dynamic = 'force-dynamic';

/** GET /api/setups/ID/chart: see docs/api.md. */
export const GET = guarded(
  'chart of a setup',
  async (request: Request, { params }: { params: Promise<{ id: string }> }) =>
    chartCsv(requestDeps(), (await params).id, new URL(request.url).searchParams),
);
