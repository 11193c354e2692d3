import { z } from 'zod';

import { CHART_DEFAULTS, chartRefusalText, CHARTS, controlChart } from '@/core/control';
import { apiError } from '@/server/base/apiError';

/* POST /api/control: a chart of values in time order; shape in docs/api.md. */

const MOST_VALUES = 100_000;
const value = z.number('A value must be a number.').min(-1e9, 'At least −10⁹.').max(1e9, 'At most 10⁹.');
const factor = (what: string, most: number) =>
  z
    .number(`“${what}” must be a number.`)
    .gt(0, `“${what}” must be more than 0.`)
    .max(most, `“${what}” is at most ${most}.`);

export const controlRequestSchema = z
  .object({
    values: z
      .array(value, '“values” is a list of numbers, oldest first.')
      .min(1, '“values” is empty: give at least one.')
      .max(MOST_VALUES, `At most ${MOST_VALUES} values.`),
    chart: z.enum(CHARTS, `“chart” is one of ${CHARTS.join(', ')}.`),
    target: value.optional(),
    sigma: factor('sigma', 1e9).optional(),
    baseline: z
      .number('“baseline” is how many of the first values tell what is usual.')
      .int('“baseline” is a whole number.')
      .min(1, '“baseline” is at least 1.')
      .optional(),
    lambda: factor('lambda', 1).default(CHART_DEFAULTS.lambda),
    width: factor('width', 100).default(CHART_DEFAULTS.width),
    k: z.number('“k” must be a number.').min(0, '“k” cannot be negative.').max(100).default(CHART_DEFAULTS.k),
    h: factor('h', 1000).default(CHART_DEFAULTS.h),
  })
  .refine(({ values, baseline }) => baseline === undefined || baseline <= values.length, {
    path: ['baseline'],
    message: 'The baseline is longer than the list of values.',
  });

export function controlForScript({ values, ...spec }: z.output<typeof controlRequestSchema>) {
  const chart = controlChart(values, spec);
  return chart.ok
    ? chart.value
    : apiError(422, chart.refusal.code, chartRefusalText(chart.refusal), 'values');
}
