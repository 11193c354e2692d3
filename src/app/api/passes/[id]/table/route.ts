import { apiError, guarded } from '@/server/base/apiError';
import { requestDeps } from '@/server/base/context';
import { csvLines } from '@/server/base/csv';
import { download } from '@/server/base/download';
import { idSchema } from '@/server/base/shapes';
import { readingsOfPass } from '@/server/sessions/loadSession';
import { tableRows } from '@/core/readings/table';

export const dynamic = 'force-dynamic';

/** GET /api/passes/ID/table: what counts of a set that was read, as a table that can be pasted back. */
export const GET = guarded(
  'table of readings',
  async (_: Request, { params }: { params: Promise<{ id: string }> }) => {
    const id = idSchema.safeParse((await params).id);
    const found = id.success ? await readingsOfPass(requestDeps(), id.data) : null;
    if (!found) return apiError(404, 'no-such-set', 'No set of that number is in the log.');
    const rows = tableRows(found.readings.filter((r) => r.setAsideBy === null));
    return download(
      csvLines(rows),
      'text/csv; charset=utf-8',
      `readings-${found.sheet.label}-${found.set === 1 ? 'A' : 'B'}.csv`,
    );
  },
);
