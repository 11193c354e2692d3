import { and, eq } from 'drizzle-orm';

import { NO_SVG } from '@/core/daily';
import { fileRefusalText, type CutFormat } from '@/core/formats/file';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { runFiles } from '@/db/schema';
import { type Applied } from '@/db/stored/runs';

import { onRun, type Stamp } from '@/server/base/step';
import type { Actor, Deps, UseCaseRefusal } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { contentOf, keepContent } from '@/server/files/keepFiles';
import { outlookOn } from './outlook';
import { refusedRun, type Run } from './run';
import { sectionFormats } from './sectionFile';
import { STANDING_REPLACED } from './standing';

/* Cut files of a run's sections: each with its own correction, name and mark. */

const HAS_FILES = ['running', 'paused', 'closed'] as const;

/** What a section's file carries: of one that is cut what it was cut with, of another what the checks so far say. */
const appliedTo = async (deps: Deps, run: Run, own: Run['sections'][number]): Promise<Applied | null> =>
  own.state === 'waiting' ? (await outlookOn(deps, run, own.index, false)).applied : own.applied;

/** Makes and keeps the corrected file of a section. */
export async function makeSectionFile(
  deps: Deps,
  actor: Actor,
  runId: string,
  index: number,
  format: CutFormat,
  stamp: Stamp = {},
): Promise<Outcome<{ fileId: string; fileName: string; content: string }, UseCaseRefusal>> {
  const step = { ...stamp, act: 'make file', allowed: HAS_FILES };
  const made = await onRun(deps, actor, runId, step, async (inner, run) => {
    const own = run.sections[index - 1];
    if (!own) return refuse({ code: 'not-found', what: `section ${index} of this run` });
    if (!sectionFormats(run, index).includes(format)) return refusedRun(NO_SVG);
    if (run.newStanding && own.state === 'waiting') return refusedRun(STANDING_REPLACED);
    const applied = await appliedTo(inner, run, own);
    const file = await heavy('sectionFile', { run, index, format, applied });
    if (!file.ok) return refusedRun(`The cut file of one item: ${fileRefusalText(file.refusal)}`);
    const { fileName, content } = file.value;
    return accept({
      fileName,
      ...(await kept(inner, actor, run, { index, format, applied, fileName, content })),
    });
  });
  if (!made.ok) return made;
  const { fileId, fileName, sha256 } = made.value;
  return accept({ fileId, fileName, content: (await contentOf(deps, sha256))! });
}

interface MadeFile {
  readonly index: number;
  readonly format: CutFormat;
  readonly applied: Applied | null;
  readonly fileName: string;
  readonly content: string;
}

async function kept(deps: Deps, actor: Actor, run: Run, file: MadeFile) {
  const sha256 = await keepContent(deps, file.content);
  const [row] = await deps.db
    .insert(runFiles)
    .values({
      runId: run.id,
      section: file.index,
      fileName: file.fileName,
      format: file.format,
      applied: file.applied,
      sha256,
      madeBy: actor,
      madeAt: deps.now(),
    })
    .returning({ id: runFiles.id });
  return { fileId: row!.id, sha256 };
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

/**
 * One archive of the run: every section in every format, cut ones as they were cut, and a list that says which is which.
 * What it makes is kept like any other file of the run, so that a name never means two contents.
 */
export async function runArchive(
  deps: Deps,
  actor: Actor,
  runId: string,
): Promise<Outcome<{ fileName: string; bytes: Uint8Array }, UseCaseRefusal>> {
  // The archive itself is no part of what the log keeps of this act.
  let archive: { fileName: string; bytes: Uint8Array } | null = null;
  const done = await onRun(
    deps,
    actor,
    runId,
    { act: 'archive', allowed: HAS_FILES, quiet: true },
    async (inner, run) => {
      if (run.newStanding) return refusedRun(STANDING_REPLACED);
      const applied: (Applied | null)[] = [];
      for (const own of run.sections) applied.push(await appliedTo(inner, run, own));
      const made = await heavy('runArchive', { run, applied });
      if (!made.ok) return refusedRun(`The cut file of one item: ${fileRefusalText(made.refusal)}`);
      const known = new Set(run.files.map((f) => f.fileName));
      for (const file of made.value.files)
        if (!known.has(file.fileName))
          await kept(inner, actor, run, { ...file, applied: applied[file.index - 1] ?? null });
      archive = { fileName: `${run.label}_cut-files.zip`, bytes: made.value.bytes };
      return accept(null);
    },
  );
  return done.ok ? accept(archive!) : done;
}
