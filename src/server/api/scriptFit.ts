import { z } from 'zod';

import {
  conclusions,
  FIT_VERSION,
  fitModel,
  fitModels,
  fTest,
  MODELS,
  ROLL_MODEL,
  type FittedModel,
  type FittedModels,
  type ModelName,
  type ModelOutcome,
  type NestedF,
  type Observation,
  type SuspectReading,
} from '@/core/fit';
import type { Point } from '@/core/geometry';

import { coordinate, rectSchema } from '@/server/base/shapes';

/* POST /api/fit: stations in, the ladder of models out. */

const MOST_STATIONS = 20_000;

const KNOWN_MODELS = [...MODELS, ROLL_MODEL] as const;

const stationSchema = z
  .object({
    id: z
      .union([z.string(), z.number()], 'A station needs an “id”: a text or a number.')
      .transform(String)
      .pipe(
        z
          .string()
          .min(1, 'A station’s “id” cannot be empty.')
          .max(64, 'A station’s “id” is at most 64 long.'),
      ),
    x: coordinate,
    y: coordinate,
    dx: coordinate,
    dy: coordinate,
    u: z.unknown(),
  })
  .superRefine((s, context) => {
    // Refused here, naming the station: a weight cannot be made from it.
    if (typeof s.u === 'number' && s.u > 1e-9 && s.u <= 1e6) return;
    context.addIssue({
      code: 'custom',
      path: ['u'],
      message: `Station ${s.id} has no uncertainty above zero. Give “u”, the standard uncertainty of its reading, in mm.`,
    });
  })
  .transform((s) => ({ ...s, u: s.u as number }));

export const fitRequestSchema = z
  .object({
    stations: z
      .array(stationSchema, '“stations” is a list of {"id","x","y","dx","dy","u"}.')
      .min(1, '“stations” is empty: give at least one.')
      .max(MOST_STATIONS, `At most ${MOST_STATIONS} stations.`),
    models: z
      .array(z.enum(KNOWN_MODELS, `A model is one of ${KNOWN_MODELS.join(', ')}.`))
      .min(1, 'Name at least one model, or leave “models” out for all.')
      .optional(),
    workArea: rectSchema.optional(),
  })
  .superRefine(({ stations }, context) => {
    const seen = new Set<string>();
    stations.forEach((s, i) => {
      if (seen.has(s.id))
        context.addIssue({
          code: 'custom',
          path: ['stations', i, 'id'],
          message: `Station ${s.id} occurs twice. Give every reading its own id, for example “${s.id}b”.`,
        });
      seen.add(s.id);
    });
  });

export type FitRequest = z.output<typeof fitRequestSchema>;

/** Fits what was sent. Never refuses as a whole: each model answers for itself. */
export function fitForScript(request: FitRequest) {
  const observations = observationsOf(request.stations);
  const wanted: readonly FittedModel[] = request.models ?? MODELS;
  const centre = centreOf(request);
  const models = fitModels(
    MODELS.filter((name) => wanted.includes(name)),
    observations,
    centre,
  );
  const { recommended, nestedF, suspects } = conclusions(models);
  const roll = wanted.includes(ROLL_MODEL) ? fitModel(ROLL_MODEL, observations, centre) : null;
  return {
    version: FIT_VERSION,
    recommended: recommendedOf(models, recommended, roll),
    workAreaCentre: centre,
    models: Object.fromEntries(
      wanted.map((name) => [
        name,
        modelAnswer(name === ROLL_MODEL ? roll! : models[name]!, request.stations.length),
      ]),
    ),
    nestedF: [...nestedF, ...rollAgainstAffine(models, roll)],
    suspects: suspectsOf(suspects),
  };
}

type RollOutcome = ModelOutcome<typeof ROLL_MODEL> | null;

/** The roll model joins the ladder when it was asked for: lowest AIC of all. */
function recommendedOf(
  models: FittedModels,
  recommended: ModelName | null,
  roll: RollOutcome,
): FittedModel | null {
  if (roll?.status !== 'ok') return recommended;
  const best = recommended === null ? null : models[recommended];
  return best?.status === 'ok' && best.aicKnownU <= roll.aicKnownU ? best.model : ROLL_MODEL;
}

function rollAgainstAffine({ affine }: FittedModels, roll: RollOutcome): NestedF[] {
  if (roll?.status !== 'ok' || affine?.status !== 'ok') return [];
  const test = fTest(affine.chi2, affine.dof, roll.chi2, roll.dof);
  return test
    ? [{ small: 'affine', big: ROLL_MODEL, df1: affine.dof - roll.dof, df2: roll.dof, ...test }]
    : [];
}

/** Two observations a station, one an axis, in the stations' order. */
export function observationsOf(stations: FitRequest['stations']): Observation[] {
  return stations.flatMap((s): Observation[] => {
    // Written out: objects made by spreading are several times slower to read, and there may be 20 000.
    return [
      { stationId: s.id, axis: 'across', xMm: s.x, yMm: s.y, offsetMm: s.dx, uMm: s.u },
      { stationId: s.id, axis: 'along', xMm: s.x, yMm: s.y, offsetMm: s.dy, uMm: s.u },
    ];
  });
}

/** Middle of the work area, or of the stations’ bounding box when no area was given. */
function centreOf({ stations, workArea }: FitRequest): Point {
  const bounds = workArea ?? {
    x0: lowest(stations.map((s) => s.x)),
    x1: -lowest(stations.map((s) => -s.x)),
    y0: lowest(stations.map((s) => s.y)),
    y1: -lowest(stations.map((s) => -s.y)),
  };
  return { x: (bounds.x0 + bounds.x1) / 2, y: (bounds.y0 + bounds.y1) / 2 };
}

const lowest = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);

function modelAnswer(outcome: ModelOutcome<FittedModel>, stations: number) {
  if (outcome.status === 'refused')
    return { status: 'refused' as const, reason: outcome.reason, message: outcome.message };
  const { observations } = outcome;
  return {
    status: 'ok' as const,
    k: outcome.k,
    dof: outcome.dof,
    params: outcome.params,
    terms: outcome.terms,
    seKnownU: outcome.seKnownU,
    // Without degrees of freedom there is no scatter to scale by; JSON has no NaN.
    seScaled: outcome.dof > 0 ? outcome.seScaled : null,
    noise: outcome.noise,
    rmsComponentMm: outcome.rmsComponentMm,
    rmsRadialMm: outcome.rmsRadialMm,
    maxRadialMm: outcome.maxRadialMm,
    chi2: outcome.chi2,
    chi2P: outcome.dof > 0 ? outcome.chi2P : null,
    aiccKnownU: outcome.aicKnownU,
    aiccUnknownSigma: outcome.aiccUnknownSigma,
    stations: Array.from({ length: stations }, (_, i) => {
      const [across, along] = [observations[2 * i]!, observations[2 * i + 1]!];
      return {
        id: across.stationId,
        resDx: across.residualMm,
        resDy: along.residualMm,
        leverageDx: across.leverage,
        leverageDy: along.leverage,
        rstudentDx: across.studentised,
        rstudentDy: along.studentised,
      };
    }),
  };
}

const suspectsOf = (suspects: readonly SuspectReading[]) =>
  suspects.map((s) => ({ id: s.stationId, axis: s.axis, rstudent: s.studentised, limit: s.limit }));
