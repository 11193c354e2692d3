import { apiError, guarded } from '@/server/base/apiError';
import { exportStream } from '@/server/exports/exportStream';

export const dynamic = 'force-dynamic';

/** GET /api/logbook/csv (a reading a row) · /api/logbook/json (everything) */
export const GET = guarded(
  'export',
  async (_: Request, { params }: { params: Promise<{ format: string }> }) => {
    const { format } = await params;
    if (format !== 'csv' && format !== 'json')
      return apiError(404, 'no-such-format', 'The log comes as csv or json.');
    return new Response(await exportStream(format), {
      headers: {
        'Content-Type': format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json',
        'Content-Disposition': `attachment; filename="red-plumb-log.${format}"`,
      },
    });
  },
);
