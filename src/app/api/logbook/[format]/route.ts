import { apiError, unavailable } from '@/server/apiError';
import { requestDeps } from '@/server/context';
import { toCsv } from '@/server/csv';
import { exportDocument, exportRows } from '@/server/logbook';

export const dynamic = 'force-dynamic';

/** GET /api/logbook/csv (a reading a row) · /api/logbook/json (everything) */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ format: string }> },
): Promise<Response> {
  const { format } = await params;
  if (format !== 'csv' && format !== 'json')
    return apiError(404, 'no-such-format', 'The log comes as csv or json.');
  try {
    const deps = await requestDeps();
    const body =
      format === 'csv' ? toCsv(await exportRows(deps)) : JSON.stringify(await exportDocument(deps), null, 1);
    return new Response(body, {
      headers: {
        'Content-Type': format === 'csv' ? 'text/csv; charset=utf-8' : 'application/json',
        'Content-Disposition': `attachment; filename="red-plumb-log.${format}"`,
      },
    });
  } catch (error) {
    console.error('red plumb  /api/logbook:', error instanceof Error ? error.message : error);
    return unavailable();
  }
}
