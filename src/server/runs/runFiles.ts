import { and, eq } from 'drizzle-orm';
import { z } from 'zod';

import { NO_SVG } from '@/core/daily';
import { fileRefusalText } from '@/core/drawing/file';
import { accept, refuse } from '@/core/outcome';
import { runFiles } from '@/db/schema';
import { type Applied } from '@/db/stored/runs';

import type { Actor, Deps, Done } from '@/server/base/deps';
import { heavy } from '@/server/heavy/pool';
import { contentOf, keepContent } from '@/server/files/keepFiles';
import { withShape } from '@/server/base/useCase';
import { idSchema, sectionIndex } from '@/server/base/shapes';
import { CUT_FORMATS } from '@/core/drawing/formats';
import type { CutFormat } from '@/core/drawing/formats';
import { outlookOn } from './outlook';
import { refusedRun, type Run } from './run';
import { sectionFormats } from './sectionFile';
import { STANDING_REPLACED } from './standing';
import { runStepWith } from './step';

/* Cut files of a run's sections: each with its own correction, name and mark. */

const HAS_FILES = ['running', 'paused', 'closed'] as const;

/** What a section's file carries: of one that is cut what it was cut with, of another what the checks so far say. */
const appliedTo = async (deps: Deps, run: Run, own: Run['sections'][number]): Promise<Applied | null> =>
  own.state === 'waiting' ? (await outlookOn(deps, run, own.index, false)).applied : own.applied;

const sectionFileSchema = z.object({ runId: idSchema, section: sectionIndex, format: z.enum(CUT_FORMATS) });

const makeFile = runStepWith(
  sectionFileSchema,
  { act: 'make file', allowed: HAS_FILES },
  {
    prepare: async (deps, run, { section: index, format }): Done<MadeFile> => {
      const own = run.sections[index - 1];
      if (!own) return refuse({ code: 'not-found', what: `section ${index} of this run` });
      if (!sectionFormats(run, index).includes(format)) return refusedRun(NO_SVG);
      if (run.newStanding && own.state === 'waiting') return refusedRun(STANDING_REPLACED);
      const applied = await appliedTo(deps, run, own);
      const drawn = await heavy('sectionFile', { run, index, format, applied });
      return drawn.ok
        ? accept({ index, format, applied, ...drawn.value })
        : refusedRun(`The cut file of one item: ${fileRefusalText(drawn.refusal)}`);
    },
    // Files of other sections do not matter to it.
    basis: (run, { section: index }) => ({
      ...told(run),
      files: run.files.filter((f) => f.section === index),
    }),
  },
  async (
    inner,
    run,
    _,
    actor,
    { fileName, ...rest },
  ): Done<{ fileName: string; fileId: string; sha256: string }> =>
    accept({ fileName, ...(await kept(inner, actor, run, { fileName, ...rest })) }),
);

/** Makes and keeps the corrected file of a section. */
export const makeSectionFile = withShape(
  sectionFileSchema,
  'make file',
  async (deps, actor, given, stamp): Done<{ fileId: string; fileName: string; content: string }> => {
    const made = await makeFile(deps, actor, given, stamp);
    if (!made.ok) return made;
    const { fileId, fileName, sha256 } = made.value;
    return accept({ fileId, fileName, content: (await contentOf(deps, sha256))! });
  },
);

/** All that files of a run are made from: its version counts files as well. */
const told = (run: Run): Run => ({ ...run, version: 0 });

interface Archived {
  /** By section. */
  readonly applied: readonly (Applied | null)[];
  readonly files: readonly Omit<MadeFile, 'applied'>[];
  readonly bytes: Uint8Array;
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
export const runArchive = runStepWith(
  idSchema,
  { act: 'archive', allowed: HAS_FILES, quiet: true },
  {
    prepare: async (deps, run): Done<Archived> => {
      if (run.newStanding) return refusedRun(STANDING_REPLACED);
      const applied: (Applied | null)[] = [];
      for (const own of run.sections) applied.push(await appliedTo(deps, run, own));
      const made = await heavy('runArchive', { run, applied });
      return made.ok
        ? accept({ applied, ...made.value })
        : refusedRun(`The cut file of one item: ${fileRefusalText(made.refusal)}`);
    },
    basis: told,
  },
  async (inner, run, _, actor, { applied, files, bytes }): Done<{ fileName: string; bytes: Uint8Array }> => {
    const known = new Set(run.files.map((f) => f.fileName));
    for (const file of files)
      if (!known.has(file.fileName))
        await kept(inner, actor, run, { ...file, applied: applied[file.index - 1] ?? null });
    // The archive itself is no part of what the log keeps of this act.
    return accept({ fileName: `${run.label}_cut-files.zip`, bytes, toJSON: () => null });
  },
);
