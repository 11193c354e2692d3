import { z } from 'zod';

import { diagnose, type DiagnosedSheet } from '@/core/diagnosis';
import { DEFAULT_LOAD_SCATTER_MM } from '@/core/tolerance';

import { scriptStationSchema } from './scriptFit';
import { stationsSchema } from '@/core/readings/shapes';

/* POST /api/diagnose: what kind of fault sheets show; shape in docs/api.md. */

const MOST_SHEETS = 20;
const MOST_READINGS = 4000;

const name = z
  .union([z.string(), z.number()], 'A text or a number.')
  .transform(String)
  .pipe(z.string().min(1, 'It cannot be empty.').max(64, 'At most 64 long.'));
const bar = z
  .number('A check bar’s length must be a number, in mm.')
  .min(1, 'At least 1 mm.')
  .max(1000, 'At most 1 m.');

const sheetSchema = z.object({
  load: name,
  job: name.default('job'),
  fresh: z.boolean('“fresh” is true or false.').default(false),
  stations: stationsSchema(scriptStationSchema, '{"id","x","y","dx","dy","u"}'),
  bars: z
    .object({
      acrossMm: bar,
      alongMm: bar,
      u: z.number('“u” must be a number, in mm.').min(0.001, 'At least 0.001 mm.').max(10, 'At most 10 mm.'),
    })
    .optional(),
});

export const diagnoseRequestSchema = z
  .object({
    marks: z
      .number('“marks” is how many marks the machine reads.')
      .int('“marks” is a whole number.')
      .min(0, 'At least 0 marks.')
      .max(4, 'At most 4 marks.'),
    sheets: z
      .array(sheetSchema, '“sheets” is a list of {"load","job","stations"}.')
      .min(1, '“sheets” is empty: give at least one.')
      .max(MOST_SHEETS, `At most ${MOST_SHEETS} sheets.`),
    rig: z
      .object({
        registrationSdMm: z.number().min(0.001, 'At least 0.001 mm.').max(10, 'At most 10 mm.').optional(),
        acuityMm: z.number().min(0, 'Not below 0.').max(10, 'At most 10 mm.').optional(),
      })
      .default({}),
  })
  .refine(({ sheets }) => sheets.reduce((sum, s) => sum + s.stations.length, 0) <= MOST_READINGS / 2, {
    path: ['sheets'],
    message: `At most ${MOST_READINGS / 2} stations on all sheets together.`,
  });

/** Check bars are 100 mm long where there is room, else 50; sheets labelled in inches have 4 and 2 in. */
const BARS_MM = [100, 50, 101.6, 50.8] as const;
/** A bar in inches is taken for one only when it is nearly true. */
const INCH_WITHIN_MM = 0.25;

function barShare(mm: number): { readonly share: number; readonly nominalMm: number } {
  const inch = BARS_MM.slice(2).find((n) => Math.abs(mm - n) < INCH_WITHIN_MM);
  const nominalMm = inch ?? (mm > 72 ? BARS_MM[0] : BARS_MM[1]);
  return { share: mm / nominalMm - 1, nominalMm };
}

export function diagnoseForScript({ marks, sheets, rig }: z.output<typeof diagnoseRequestSchema>) {
  const seen = (u: number | null): number | null => (u === null ? null : Math.max(u, rig.acuityMm ?? 0));
  return {
    kinds: diagnose(
      { marks, registrationSdMm: rig.registrationSdMm ?? DEFAULT_LOAD_SCATTER_MM },
      sheets.map(({ load, job, fresh, stations, bars }): DiagnosedSheet => {
        const [across, along] = bars ? [barShare(bars.acrossMm), barShare(bars.alongMm)] : [];
        return {
          ...{ load, job, fresh },
          stations: stations.map((s) => ({ ...s, ux: seen(s.ux), uy: seen(s.uy) })),
          bars:
            bars && across && along
              ? {
                  across: across.share,
                  along: along.share,
                  u: bars.u / Math.min(across.nominalMm, along.nominalMm),
                }
              : null,
        };
      }),
    ),
  };
}
