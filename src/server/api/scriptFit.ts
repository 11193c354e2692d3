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

import { stationIdSchema, stationsSchema } from '@/core/readings/shapes';

/** Nothing is read to less. */
const LEAST_U_MM = 1e-9;

/* POST /api/fit: stations in, the ladder of models out. */

const KNOWN_MODELS = [...MODELS, ROLL_MODEL] as const;

/** A station of a script as it was read, on one axis or both. */
export const scriptStationSchema = z
  .object({
    id: stationIdSchema,
    x: coordinate,
    y: coordinate,
    dx: coordinate.nullable(),
    dy: coordinate.nullable(),
    u: z.unknown().optional(),
    ux: coordinate.nullish(),
    uy: coordinate.nullish(),
  })
  .transform((s, context) => {
    if (s.dx === null && s.dy === null)
      context.addIssue({
        code: 'custom',
        path: ['dx'],
        message: `Station ${s.id} has neither dx nor dy: leave it out, or give what was read.`,
      });
    // An axis that was not read weighs nothing; one that was has an uncertainty, its own or the station's.
    const uncertainty = (read: number | null, name: 'ux' | 'uy'): number | null => {
      if (read === null) return null;
      const u: unknown = s[name] ?? s.u;
      if (weighs(u)) return u;
      context.addIssue({
        code: 'custom',
        path: [typeof s[name] === 'number' ? name : 'u'],
        message: `Station ${s.id} has no uncertainty above zero. Give “u”, the standard uncertainty of its reading, in mm.`,
      });
      return null;
    };
    const { id, x, y, dx, dy } = s;
    return { id, x, y, dx, dy, ux: uncertainty(dx, 'ux'), uy: uncertainty(dy, 'uy') };
  });

const weighs = (u: unknown): u is number => typeof u === 'number' && u > LEAST_U_MM && u <= 1e6;

export const fitRequestSchema = z.object({
  stations: stationsSchema(scriptStationSchema, '{"id","x","y","dx","dy","u"}'),
  models: z
    .array(z.enum(KNOWN_MODELS, `A model is one of ${KNOWN_MODELS.join(', ')}.`))
    .min(1, 'Name at least one model, or leave “models” out for all.')
    .optional(),
  workArea: rectSchema.optional(),
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
  const { recommended, nestedF, suspects } = conclusions(models, observations);
  const roll = wanted.includes(ROLL_MODEL) ? fitModel(ROLL_MODEL, observations, centre) : null;
  return {
    version: FIT_VERSION,
    recommended: recommendedOf(models, recommended, roll),
    workAreaCentre: centre,
    models: Object.fromEntries(
      wanted.map((name) => [
        name,
        modelAnswer(name === ROLL_MODEL ? roll! : models[name]!, request.stations),
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

/** Up to two observations a station, one an axis that was read, in the stations' order. */
export function observationsOf(stations: FitRequest['stations']): Observation[] {
  const observations: Observation[] = [];
  for (const s of stations) {
    // Written out: objects made by spreading are several times slower to read, and there may be 20 000.
    if (s.dx !== null)
      observations.push({ stationId: s.id, axis: 'across', xMm: s.x, yMm: s.y, offsetMm: s.dx, uMm: s.ux! });
    if (s.dy !== null)
      observations.push({ stationId: s.id, axis: 'along', xMm: s.x, yMm: s.y, offsetMm: s.dy, uMm: s.uy! });
  }
  return observations;
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

function modelAnswer(outcome: ModelOutcome<FittedModel>, stations: FitRequest['stations']) {
  if (outcome.status === 'refused')
    return { status: 'refused' as const, reason: outcome.reason, message: outcome.message };
  const { observations } = outcome;
  let next = 0;
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
    stations: stations.map((s) => {
      const of = {
        across: s.dx === null ? null : observations[next++]!,
        along: s.dy === null ? null : observations[next++]!,
      };
      return {
        id: s.id,
        resDx: of.across?.residualMm ?? null,
        resDy: of.along?.residualMm ?? null,
        leverageDx: of.across?.leverage ?? null,
        leverageDy: of.along?.leverage ?? null,
        rstudentDx: of.across?.studentised ?? null,
        rstudentDy: of.along?.studentised ?? null,
      };
    }),
  };
}

const suspectsOf = (suspects: readonly SuspectReading[]) =>
  suspects.map((s) => ({ id: s.stationId, axis: s.axis, rstudent: s.studentised, limit: s.limit }));
