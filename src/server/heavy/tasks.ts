import {
  cutLineOf,
  trace,
  withBleed,
  type BleedSpec,
  type CutLineRecipe,
  type Picture,
  type TraceSpec,
} from '@/core/artwork';
import { lookAtPiece, type PieceToLookAt } from '@/core/artwork/checks/pieceLook';
import { correctDaily, type Daily } from '@/core/daily';
import { DRIFT_PRIORS, estimateWithSlips, sectionOutlook, type DriftRun } from '@/core/drift';
import { correctFile, readCutFile } from '@/core/drawing/file';
import type { PlaneMap } from '@/core/geometry';
import { expectedMiss, planRoll } from '@/core/layout';
import { accept } from '@/core/outcome';
import { seededRandom } from '@/core/random/random';
import { layOutJob, type JobLayout, type JobPiece, type JobSheet } from '@/core/sheetJob';
import { type Applied } from '@/db/stored/runs';

import { fitForScript } from '@/server/api/scriptFit';
import { archiveOf, sectionFile } from '@/server/runs/sectionFile';
import type { Run } from '@/server/runs/run';
import { driftForScript, nextForScript, planForScript } from '@/server/api/scriptRoll';
import { offsetForScript } from '@/server/api/scriptArtwork';
import { printPages } from '@/server/heavy/printPages';
import { checkOnThread } from '@/server/api/scriptCheck';
import { diagnoseForScript } from '@/server/api/scriptDiagnose';
import { sheetForScript } from '@/server/api/scriptSheet';
import { settingsForScript } from '@/server/api/scriptSettings';
import type { CutFormat } from '@/core/drawing/formats';

/*
 * What takes longer than a request may hold the others up, by name. Pure: plain values in, plain values out, so that a
 * worker thread can do it. Input has gone through its schema before.
 */

interface FileToCorrect {
  readonly text: string;
  readonly map: PlaneMap;
  readonly to: CutFormat | null;
  readonly cutAll?: readonly string[];
}

interface DailyToCorrect {
  readonly text: string;
  readonly setup: Daily;
  readonly own: boolean;
  readonly to: CutFormat | null;
  readonly cutAll?: readonly string[];
}

interface PictureToTrace {
  readonly picture: Picture;
  readonly spec: TraceSpec;
}

interface DriftOf {
  readonly record: readonly DriftRun[];
  readonly mediaClass: keyof typeof DRIFT_PRIORS;
}

type Outlook = Parameters<typeof sectionOutlook>;
interface OutlookOn {
  readonly along: Outlook[0];
  readonly across: Outlook[1];
  readonly ahead: Outlook[2];
  readonly seed: number;
}

interface PlanToExpect {
  readonly run: Parameters<typeof expectedMiss>[0];
  readonly knowledge: Parameters<typeof expectedMiss>[1];
}

interface SectionToCut {
  readonly run: Run;
  readonly index: number;
  readonly format: CutFormat;
  readonly applied: Applied | null;
}

interface JobToLayOut {
  readonly pieces: readonly JobPiece[];
  readonly layout: JobLayout;
  readonly sheet: JobSheet;
}

interface PieceToLook extends Omit<PieceToLookAt, 'printed'> {
  /** How its colour is grown; null: it is printed as it came. */
  readonly bleed: BleedSpec | null;
}

export const TASKS = {
  printPages,
  correctFile: ({ text, map, to, cutAll }: FileToCorrect) =>
    correctFile(text, map, to, { cutAll: cutAll ?? [] }),
  correctDaily: ({ text, setup, own, to, cutAll }: DailyToCorrect) =>
    correctDaily(text, setup, own, to, cutAll),
  /** Whether a text is a cut file that can be laid out. */
  checkCutFile: (text: string) => {
    const read = readCutFile(text);
    return read.ok ? accept(null) : read;
  },
  estimateDrift: ({ record, mediaClass }: DriftOf) =>
    estimateWithSlips(record, DRIFT_PRIORS[mediaClass], seededRandom(1)),
  sectionOutlook: ({ along, across, ahead, seed }: OutlookOn) =>
    sectionOutlook(along, across, ahead, seededRandom(seed)),
  sectionFile: ({ run, index, format, applied }: SectionToCut) => sectionFile(run, index, format, applied),
  runArchive: ({ run, applied }: { readonly run: Run; readonly applied: readonly (Applied | null)[] }) =>
    archiveOf(run, applied),
  expectedMiss: ({ run, knowledge }: PlanToExpect) => expectedMiss(run, knowledge),
  layOut: ({ pieces, layout, sheet }: JobToLayOut) => layOutJob(pieces, layout, sheet),
  planRoll: (given: Parameters<typeof planRoll>) => planRoll(...given),
  fit: fitForScript,
  settings: settingsForScript,
  diagnose: diagnoseForScript,
  offset: offsetForScript,
  check: checkOnThread,
  sheet: sheetForScript,
  trace: ({ picture, spec }: PictureToTrace) => trace(picture, spec),
  cutLine: ({ picture, recipe }: { readonly picture: Picture; readonly recipe: CutLineRecipe }) =>
    cutLineOf(picture, recipe),
  bleed: ({ picture, spec }: { readonly picture: Picture; readonly spec: BleedSpec }) =>
    withBleed(picture, spec),
  lookAtPiece: ({ bleed, ...piece }: PieceToLook) =>
    lookAtPiece({ ...piece, printed: bleed ? withBleed(piece.art, bleed) : undefined }),
  plan: planForScript,
  drift: driftForScript,
  next: nextForScript,
} as const;

export type TaskName = keyof typeof TASKS;
export type TaskInput<N extends TaskName> = Parameters<(typeof TASKS)[N]>[0];
export type TaskOutput<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;
