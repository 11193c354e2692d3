import { and, eq } from 'drizzle-orm';

import type { CutFormat } from '@/core/formats/file';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { runFiles } from '@/db/schema';

import { onRun, type Stamp } from './base/step';
import type { Actor, Deps, UseCaseRefusal } from './deps';
import { heavy } from './heavy/pool';
import { contentOf, keepContent } from './keepFiles';
import { outlookOn } from './runSteps';
import { getRun, refusedRun, RUN_NOT_FOUND, type Applied } from './runs';
import { sectionFileName } from './sectionFile';

/* Cut files of a run's sections: each with its own correction, name and mark. */

/** Makes and keeps the corrected file of a section. */
export async function makeSectionFile(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  format: CutFormat,
  stamp: Stamp = {},
): Promise<Outcome<{ fileName: string; content: string }, UseCaseRefusal>> {
  const step = { ...stamp, act: 'make file', allowed: ['running', 'paused', 'closed'] as const };
  const made = await onRun(deps, actor, runId, step, async (inner, run) => {
    const own = run.sections[index - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    // A section that is cut keeps what it was cut with; another one is worked out from the checks so far.
    const applied =
      own.state === 'waiting' ? (await outlookOn(inner, run, index, false)).applied : own.applied;
    const fileName = sectionFileName(run, index, format, applied);
    const content = await heavy('sectionFile', { run, index, format, applied });
    const sha256 = await keepContent(inner, content);
    await inner.db.insert(runFiles).values({
      runId,
      section: index,
      fileName,
      format,
      applied,
      sha256,
      madeBy: actor,
      madeAt: deps.now(),
    });
    return accept({ fileName, sha256 });
  });
  if (!made.ok) return made;
  const { fileName, sha256 } = made.value;
  return accept({ fileName, content: (await contentOf(deps, sha256))! });
}

/** A section's file as it was made; its content is null when its keeping time is over. */
export async function getRunFile(deps: Deps, runId: string, fileId: string) {
  const [row] = await deps.db
    .select({ fileName: runFiles.fileName, sha256: runFiles.sha256, format: runFiles.format })
    .from(runFiles)
    .where(and(eq(runFiles.runId, runId), eq(runFiles.id, fileId)));
  if (!row) return null;
  return {
    fileName: row.fileName,
    format: row.format as CutFormat,
    content: await contentOf(deps, row.sha256),
  };
}

/** One archive of the run: every section in every format, cut ones as they were cut, and a list that says which is which. */
export async function runArchive(
  deps: Deps,
  runId: string,
): Promise<Outcome<{ fileName: string; bytes: Uint8Array }, UseCaseRefusal>> {
  const run = await getRun(deps, runId);
  if (!run) return refuse(RUN_NOT_FOUND);
  if (run.stage === 'release')
    return refusedRun('The run is not released yet. Go through its release card first.');
  const applied: (Applied | null)[] = [];
  for (const own of run.sections)
    applied.push(
      own.state === 'waiting' ? (await outlookOn(deps, run, own.index, false)).applied : own.applied,
    );
  const bytes = await heavy('runArchive', { run, applied });
  return accept({ fileName: `${run.label}_cut-files.zip`, bytes });
}
