import { createHash } from 'node:crypto';

import type { PieceFinding } from '@/core/artwork/checks/pieceLook';
import { bleedArea, findingsOnce, jobFindings, type JobPiece, type SheetFinding } from '@/core/sheetJob';
import { onePerProcess } from '@/process/onePerProcess';
import type { Deps } from '@/server/base/deps';
import { drawing } from '@/server/heavy/drawing/pool';
import { heavy } from '@/server/heavy/pool';
import { setupCheck } from '@/server/setups/checkContext';
import type { Setup } from '@/server/setups/setup';

import type { SheetJob } from './job';
import { artOf } from './repository';

/* A job looks at its own sheet: its lines, how its pieces lie on it, and each piece by its own pixels as it is printed. */

/** What was found, and pieces whose picture could not be looked at, by their letters. */
export interface JobLook {
  readonly findings: readonly SheetFinding[];
  readonly notLooked: readonly string[];
}

/** So many looks at pieces are remembered: a draft is looked at again at every change of another piece. */
const MOST_KEPT = 300;
const kept = onePerProcess(
  'looks at pieces',
  () => new Map<string, Promise<readonly PieceFinding[] | null>>(),
);

/** Everything that is wrong with a job of a setup. */
export async function lookAtJob(deps: Deps, job: SheetJob, setup: Setup): Promise<JobLook> {
  const { context } = setupCheck(setup);
  // Of a rig that was never proved nobody knows more than what it may be off.
  const hiddenMm = context.neededMm ?? setup.toleranceMm;
  const pieces = job.geometry.pieces.filter((p) => p.copies !== 0);
  const looks = await Promise.all(pieces.map((piece) => lookAt(deps, job, piece, hiddenMm)));
  const seen = new Map(pieces.flatMap((p, i) => (looks[i] ? [[p.id, looks[i]] as const] : [])));
  return {
    findings: jobFindings(job.geometry, context, context.neededMm, seen),
    notLooked: pieces.filter((p) => !seen.has(p.id)).map((p) => p.id),
  };
}

/** What stops a job, each once. */
export const stopsOf = ({ findings }: JobLook) => findingsOnce(findings.filter((f) => f.severity === 'stop'));

/** A piece by its pixels; null where its picture cannot be read. Looked at once while it stays as it is. */
function lookAt(
  deps: Deps,
  job: SheetJob,
  piece: JobPiece,
  neededMm: number,
): Promise<readonly PieceFinding[] | null> {
  const made = job.pieces.find((p) => p.id === piece.id)!;
  const key = createHash('sha256')
    .update(
      JSON.stringify([
        made.art.sha256,
        made.recipe.parted,
        piece.picture,
        piece.lines,
        piece.bleedMm,
        neededMm,
      ]),
    )
    .digest('hex');
  const known = kept.get(key);
  if (known) return known;
  // A look that fails costs nobody the page: it is said that nothing was looked at, and tried again next time.
  const look = pixelsOf(deps, made, piece, neededMm).catch(() => {
    kept.delete(key);
    return null;
  });
  kept.set(key, look);
  if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
  return look;
}

async function pixelsOf(
  deps: Deps,
  made: SheetJob['pieces'][number],
  piece: JobPiece,
  neededMm: number,
): Promise<readonly PieceFinding[] | null> {
  const bytes = await artOf(deps, made.art.sha256);
  const decoded = bytes && (await drawing('decodePicture', [bytes]));
  if (!decoded?.ok) return null;
  const { width, height, rgba } = decoded.value;
  const mmPerPx = piece.picture.widthMm / width;
  return heavy('lookAtPiece', {
    ...{ art: { width, height, rgba }, mmPerPx, lines: piece.lines, neededMm },
    bleed:
      piece.bleedMm > 0
        ? {
            ...{ ...made.recipe.parted, mmPerPx },
            area: bleedArea(piece.lines, piece.bleedMm).map((l) => l.points),
          }
        : null,
  });
}
