import { z } from 'zod';

import { chartOfRecord, RIG_CHARTS, rigChartRefusalText } from '@/core/control';
import { TERM_NAMES } from '@/core/fit';
import { apiError } from '@/server/base/apiError';
import { csvHead, csvRows, type CsvColumn } from '@/server/base/csv';
import type { Deps } from '@/server/base/deps';
import { download } from '@/server/base/download';
import { idSchema } from '@/server/base/shapes';
import { getSetup } from '@/server/setups/repository';
import { chartLoads } from '@/server/watch/chartLoads';

/* GET /api/setups/ID/chart: a chart of a setup’s loads as CSV; shape in docs/api.md. */

export const chartQuerySchema = z.object({
  chart: z.enum(RIG_CHARTS, `“chart” is one of ${RIG_CHARTS.join(', ')}.`).default('averages'),
  term: z.enum(TERM_NAMES, `“term” is one of ${TERM_NAMES.join(', ')}.`).default('shiftXMm'),
});

/** Every load a row; lengths in mm at the corner that the term moves most, T² without unit. */
export async function chartCsv(deps: Deps, setupId: string, query: URLSearchParams): Promise<Response> {
  const id = idSchema.safeParse(setupId);
  const setup = id.success ? await getSetup(deps, id.data) : null;
  if (!setup) return apiError(404, 'no-such-setup', 'No setup of that id is in this shop.');
  const asked = chartQuerySchema.safeParse(Object.fromEntries(query));
  if (!asked.success) {
    const [issue] = asked.error.issues;
    return apiError(400, 'invalid-input', issue!.message, issue!.path.join('.'));
  }
  const { chart: kind, term } = asked.data;
  const { record } = await chartLoads(deps, setup);
  const drawn = chartOfRecord(record, kind, term, setup.toleranceMm);
  if (!drawn.ok) return apiError(422, drawn.refusal.code, rigChartRefusalText(drawn.refusal));
  const { chart, columns } = drawn.value;
  const table: readonly CsvColumn<number>[] = [
    ['when', (i) => new Date(columns.at[i]!).toISOString()],
    ['load_mm', (i) => chart.value?.[i]],
    ['statistic', (i) => chart.statistic[i]],
    ['downwards', (i) => chart.below?.[i]],
    ['step_mm', (i) => chart.range?.[i]],
    ['centre', (i) => chart.centre[i]],
    ['lower', (i) => chart.lower[i]],
    ['upper', (i) => chart.upper[i]],
    ['beyond', (i) => (chart.signal[i] ? 1 : 0)],
    ['new', (i) => columns.anew[i]],
  ];
  return download(
    csvHead(table) +
      csvRows(
        table,
        columns.at.map((_, i) => i),
      ),
    'text/csv; charset=utf-8',
    `chart-${kind === 'all-terms' ? kind : `${kind}-${term}`}.csv`,
  );
}
