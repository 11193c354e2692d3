import { SAME } from '../tolerance';
import { PARAMETER_COUNT, type FitRefusal, type FittedModel, type Observation } from './types';

/** Spread sideways over spread lengthways below which stations count as lying on one line. */
const LINE_RATIO = 1e-6;

/** Why these observations cannot determine the model, or null when their layout allows it. */
export function classifyLayout(model: FittedModel, observations: readonly Observation[]): FitRefusal | null {
  for (const o of observations) {
    if (!(o.uMm > 0) || !Number.isFinite(o.uMm)) return { code: 'no-uncertainty', stationId: o.stationId };
    if (!Number.isFinite(o.xMm) || !Number.isFinite(o.yMm) || !Number.isFinite(o.offsetMm))
      return { code: 'not-finite', stationId: o.stationId };
  }
  const required = PARAMETER_COUNT[model];
  if (observations.length < required)
    return { code: 'too-few-readings', required, received: observations.length };
  const across = observations.filter((o) => o.axis === 'across');
  const along = observations.filter((o) => o.axis === 'along');
  if (across.length === 0) return { code: 'one-axis-only', missing: 'across' };
  if (along.length === 0) return { code: 'one-axis-only', missing: 'along' };
  if (model === 'shift') return null;
  if (model !== 'affine' && model !== 'projective' && model !== 'roll')
    return spread(observations).kind === 'point' ? { code: 'coincident-stations' } : null;
  return affineLayout(across) ?? affineLayout(along);
}

/** Each axis of an affine map needs three places that do not lie on one line. */
function affineLayout(observations: readonly Observation[]): FitRefusal | null {
  if (observations.length < 3)
    return { code: 'too-few-readings', required: 6, received: 2 * observations.length };
  const found = spread(observations);
  if (found.kind === 'point') return { code: 'coincident-stations' };
  if (found.kind === 'area') return null;
  if (found.alongX) return { code: 'single-row' };
  return found.alongY ? { code: 'single-column' } : { code: 'collinear-stations' };
}

type Spread =
  | { readonly kind: 'point' }
  | { readonly kind: 'area' }
  | { readonly kind: 'line'; readonly alongX: boolean; readonly alongY: boolean };

/** Principal spreads of the places; eigenvalues of their 2×2 scatter, taken from centred coordinates. */
function spread(observations: readonly Observation[]): Spread {
  const n = observations.length;
  const meanX = observations.reduce((sum, o) => sum + o.xMm, 0) / n;
  const meanY = observations.reduce((sum, o) => sum + o.yMm, 0) / n;
  const size = observations.reduce((most, o) => Math.max(most, Math.abs(o.xMm), Math.abs(o.yMm)), 1);
  let farthest = { x: 0, y: 0, distance: 0 };
  for (const o of observations) {
    const x = o.xMm - meanX;
    const y = o.yMm - meanY;
    // Not Math.hypot: it is ten times slower, and millimetres do not overflow.
    const distance = Math.sqrt(x * x + y * y);
    if (distance > farthest.distance) farthest = { x, y, distance };
  }
  if (farthest.distance <= SAME * size) return { kind: 'point' };
  const ux = farthest.x / farthest.distance;
  const uy = farthest.y / farthest.distance;
  const aside = observations.reduce(
    (most, o) => Math.max(most, Math.abs((o.xMm - meanX) * uy - (o.yMm - meanY) * ux)),
    0,
  );
  if (aside > LINE_RATIO * farthest.distance) return { kind: 'area' };
  return { kind: 'line', alongX: Math.abs(uy) < LINE_RATIO, alongY: Math.abs(ux) < LINE_RATIO };
}
