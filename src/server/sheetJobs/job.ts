import type { JobGeometry } from '@/core/sheetJob';
import type { CutMade, JobFrozenAs, JobRecipe } from '@/db/stored/sheetJobs';

/* A sheet job as it is read from the database. */

export type JobStage = 'draft' | 'frozen' | 'closed';

/** A numbered cut file of a frozen job. */
export interface JobCut extends CutMade {
  readonly revision: number;
  readonly by: string;
  readonly at: Date;
}

export interface SheetJobRow {
  readonly id: string;
  readonly label: string;
  readonly name: string;
  readonly setupId: string;
  readonly rig: string;
  readonly media: string;
  readonly stage: JobStage;
  readonly discarded: boolean;
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly copies: number;
  readonly sheets: number;
}

/** Where a piece of a job comes from. */
export interface PieceMade {
  /** The letter that the geometry has it under. */
  readonly id: string;
  readonly art: { readonly sha256: string; readonly name: string; readonly widthPx: number };
  readonly recipe: JobRecipe;
  /** The piece whose line it has; null: its own. */
  readonly lineOf: string | null;
}

export interface SheetJob {
  readonly id: string;
  readonly number: number;
  readonly label: string;
  readonly name: string;
  readonly setupId: string;
  readonly stage: JobStage;
  /** A draft that was thrown away. */
  readonly discarded: boolean;
  /** In the order of its geometry's pieces. */
  readonly pieces: readonly PieceMade[];
  readonly geometry: JobGeometry;
  readonly frozenAs: JobFrozenAs | null;
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly frozenBy: string | null;
  readonly frozenAt: Date | null;
  readonly closedAt: Date | null;
  readonly version: number;
  readonly cuts: readonly JobCut[];
}

/** “P0012”: told apart from proof sheets and from runs on rolls. */
export const jobLabel = (number: number): string => `P${String(number).padStart(4, '0')}`;

/** Pieces that lie on a sheet job's sheets, all together. */
export const piecesOn = ({ sheets }: Pick<JobGeometry, 'sheets'>): number =>
  sheets.reduce((sum, s) => sum + s.length, 0);
