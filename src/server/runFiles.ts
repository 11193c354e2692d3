import { strToU8, zipSync } from 'fflate';
import { and, eq } from 'drizzle-orm';

import { IDENTITY } from '@/core/geometry';
import { CUT_FORMATS, readCutFile, writeCutFile, type CutFormat } from '@/core/formats/file';
import { outlineDrawing, placedItem, sectionDrawing } from '@/core/layout';
import { accept, refuse, type Outcome } from '@/core/outcome';
import { runFiles } from '@/db/schema';

import { onRun, type Stamp } from './base/step';
import type { Actor, Deps, UseCaseRefusal } from './deps';
import { contentOf, keepContent } from './keepFiles';
import { outlookOn } from './runSteps';
import { getRun, refusedRun, RUN_NOT_FOUND, type Applied, type Run } from './runs';

/* Cut files of a run's sections: each with its own correction, name and mark. */

/** “R012_section-03-of-06_rows-9-12_make-2.svg”: told apart by name alone; a new correction is a new make. */
export function sectionFileName(run: Run, index: number, format: CutFormat, applied: Applied | null): string {
  const section = run.plan.sections[index - 1]!;
  const two = (n: number): string => String(n).padStart(2, '0');
  const rows =
    section.rows === 1
      ? `row-${section.firstRow}`
      : `rows-${section.firstRow}-${section.firstRow + section.rows - 1}`;
  const make = makeOf(run, index, applied);
  const which = applied === null ? '_as-drawn' : make > 1 ? `_make-${make}` : '';
  return `${run.label}_section-${two(index)}-of-${two(run.sections.length)}_${rows}${which}.${format}`;
}

/** The how-manieth correction of a section this is, from 1: the same one again, in whatever format, keeps its number. */
export function makeOf(run: Run, index: number, applied: Applied | null): number {
  const made = new Set(
    run.files.flatMap((f) => (f.section === index && f.applied ? [JSON.stringify(f.applied)] : [])),
  );
  const own = [...made].indexOf(JSON.stringify(applied));
  return own >= 0 ? own + 1 : made.size + 1;
}

/** The content of a section's cut file. */
export function sectionFile(run: Run, index: number, format: CutFormat, applied: Applied | null): string {
  const { plan } = run;
  const { imposition } = plan;
  const section = plan.sections[index - 1]!;
  const { item, outline, printableWidthMm } = plan.request;
  const given = run.itemFile === null ? null : readCutFile(run.itemFile);
  const drawing =
    given?.ok === true
      ? placedItem(given.value.drawing, given.value.bounds, imposition.turned)
      : outlineDrawing(
          imposition.turned ? item.heightMm : item.widthMm,
          imposition.turned ? item.widthMm : item.heightMm,
          outline,
        );
  // The cut has to follow what the laminate stretched.
  const map = applied && { ...IDENTITY, ...applied.map, a22: applied.map.a22 - (applied.stretch - 1) };
  const cut = sectionDrawing(imposition, section, plan, drawing, printableWidthMm, map);
  const label = `Run ${run.label}, ${run.name}: section ${index} of ${run.sections.length}, rows ${section.firstRow} to ${section.firstRow + section.rows - 1}, ${applied ? `make ${makeOf(run, index, applied)}` : 'as drawn'}`;
  return writeCutFile(cut, format, label);
}

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
    const sha256 = await keepContent(inner, sectionFile(run, index, format, applied));
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
  const files: Record<string, Uint8Array> = {};
  const lines = [
    `Run ${run.label}, ${run.name}`,
    `Rig: ${run.rig.name}, ${run.rig.media}`,
    '',
    'section  rows  copies  moved right mm  moved along mm  stretched mm per m  state',
  ];
  for (const own of run.sections) {
    const section = run.plan.sections[own.index - 1]!;
    const applied =
      own.state === 'waiting' ? (await outlookOn(deps, run, own.index, false)).applied : own.applied;
    for (const format of CUT_FORMATS)
      files[`${format}/${sectionFileName(run, own.index, format, applied)}`] = strToU8(
        sectionFile(run, own.index, format, applied),
      );
    const m = applied?.map;
    lines.push(
      [
        own.index,
        `${section.firstRow} to ${section.firstRow + section.rows - 1}`,
        section.copies,
        m ? (-m.tx).toFixed(3) : 'as drawn',
        m ? (-m.ty).toFixed(3) : 'as drawn',
        applied ? (1000 * (applied.stretch - 1 - (applied.map.a22 - 1))).toFixed(3) : 'as drawn',
        own.state === 'waiting'
          ? 'worked out from the checks so far; make it anew after the next check'
          : own.state,
      ].join('  '),
    );
  }
  files['which-is-which.txt'] = strToU8(`${lines.join('\n')}\n`);
  return accept({ fileName: `${run.label}_cut-files.zip`, bytes: zipSync(files, { level: 6 }) });
}
