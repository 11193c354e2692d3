import { applyAffine, type Affine, type Point } from '@/core/geometry';
import { CHECK_U_MM as COMB_U_MM, rowMiddleMm } from '@/core/layout';
import { refuse } from '@/core/outcome';
import type { CheckPlace, CheckWay, RunEventKind, RunStage, SECTION_STATES } from '@/core/setup';
import type { Applied, EventDetail, FrozenPlan, RunOutcome } from '@/db/stored/runs';
import type { Setup } from '@/server/setups/setup';

/* A run as it is read from the log. */

/** How well each way of checking reads, mm; common practice, no source. */
export const CHECK_U_MM: Readonly<Record<CheckWay, number>> = { comb: COMB_U_MM, gaps: 0.06, ruler: 0.15 };

export interface RunSection {
  readonly index: number;
  readonly state: (typeof SECTION_STATES)[number];
  readonly applied: Applied | null;
  /** The file that was loaded; null as drawn. */
  readonly fileId: string | null;
  readonly cutBy: string | null;
  readonly cutAt: Date | null;
  readonly spoiled: number | null;
}

export interface RunCheck {
  readonly id: string;
  readonly section: number;
  readonly place: CheckPlace;
  readonly yMm: number;
  readonly dxMm: number | null;
  readonly dyMm: number | null;
  readonly uMm: number;
  readonly way: CheckWay;
  readonly by: string;
  readonly at: Date;
}

export interface RunEvent {
  readonly id: string;
  /** Taken back later; it stays in the log and counts no more. */
  readonly undone: boolean;
  readonly kind: RunEventKind;
  readonly section: number | null;
  readonly detail: EventDetail;
  readonly by: string;
  readonly at: Date;
}

export interface RunFile {
  readonly id: string;
  readonly section: number;
  readonly fileName: string;
  readonly applied: Applied | null;
  readonly madeBy: string;
  readonly madeAt: Date;
}

/** What stood for the setup, as a run carries it: T in its sections' frame, null when files carry nothing. */
export interface RunStanding {
  readonly id: string;
  readonly map: Affine | null;
}

export interface Run {
  readonly id: string;
  readonly number: number;
  readonly label: string;
  readonly setup: Setup;
  readonly name: string;
  readonly stage: RunStage;
  /** Counts everything that was done on it. */
  readonly version: number;
  readonly plan: FrozenPlan;
  readonly itemFile: string | null;
  /** What its files carry of the setup. */
  readonly standing: RunStanding;
  /** The setup's standing correction was replaced since, and nobody has said yet which one the files carry. */
  readonly newStanding: (RunStanding & { readonly by: string; readonly since: Date }) | null;
  /** Where across its witness strip stands, section frame; null: it has none. */
  readonly witnessXMm: number | null;
  readonly startedBy: string;
  readonly startedAt: Date;
  readonly closedAt: Date | null;
  readonly outcome: RunOutcome | null;
  readonly sections: readonly RunSection[];
  readonly checks: readonly RunCheck[];
  readonly events: readonly RunEvent[];
  readonly files: readonly RunFile[];
}

/** “R012”: how a run is called, on its files and its cards. */
export const runLabel = (number: number): string => `R${String(number).padStart(3, '0')}`;

export const RUN_NOT_FOUND = { code: 'not-found', what: 'run' } as const;

/** What steers a run and can be taken back. */
export const UNDOABLE = [
  'registered',
  'slip-kept',
  'laminated',
  'standing',
] as const satisfies readonly RunEventKind[];

/** Events of a kind that count. */
export const inForce = (
  { events }: { readonly events: readonly RunEvent[] },
  kind: (typeof UNDOABLE)[number],
): RunEvent[] => events.filter((e) => e.kind === kind && !e.undone);

/** Where a check is made, from the run's first registration: the middle of the first or the last row. */
export function checkYMm(plan: FrozenPlan, index: number, place: CheckPlace): number {
  const section = plan.sections[index - 1]!;
  return rowMiddleMm(section, place === 'first row' ? 0 : section.rows - 1, plan);
}

/** Length after laminating over length before, for a section; 1 where the far marks make the cutter follow it. */
export function stretchOf(run: Pick<Run, 'events' | 'plan'>, section: number): number {
  if (run.plan.way === 'both-ends') return 1;
  const laminated = inForce(run, 'laminated').findLast((e) => e.section !== null && e.section <= section);
  return laminated?.detail.stretch ?? 1;
}

/** d that a section's file undid at a place of the run, the laminate's stretch left out. */
export function undoneAt(applied: Applied | null, plan: FrozenPlan, index: number, yMm: number) {
  if (!applied) return { dx: 0, dy: 0 };
  const y = yMm - plan.sections[index - 1]!.startMm;
  const m: Affine = applied.map;
  return { dx: m.a12 * y + m.tx, dy: (m.a22 - 1) * y + m.ty };
}

/** How far a map moves a place of a section, mm; nothing where there is none. */
function movedAt(map: Affine | null, p: Point): { readonly dx: number; readonly dy: number } {
  if (!map) return { dx: 0, dy: 0 };
  const to = applyAffine(map, p);
  return { dx: to.x - p.x, dy: to.y - p.y };
}

/** What a section's file left of the setup's standing correction at a distance along it, mm: nothing where it carried it. */
export function standingLeft(
  run: Run,
  section: number,
  yMm: number,
): { readonly dx: number; readonly dy: number } {
  const carried = run.sections[section - 1]!.applied?.standing ?? null;
  const p = { x: run.witnessXMm ?? run.plan.request.printableWidthMm / 2, y: yMm };
  const [stands, undone] = [movedAt(run.standing.map, p), movedAt(carried, p)];
  return { dx: stands.dx - undone.dx, dy: stands.dy - undone.dy };
}

/**
 * The rig's own offset behind a check, as the run follows it: what was read, what the section's file undid, and without
 * what it left of the setup's standing correction. A laminate that the file did not follow made the print longer, so that
 * the cut seems to lie that much back.
 */
export function ownOffset(run: Run, c: Pick<RunCheck, 'section' | 'yMm' | 'dxMm' | 'dyMm'>) {
  const { applied } = run.sections[c.section - 1]!;
  const undone = undoneAt(applied, run.plan, c.section, c.yMm);
  const followed = applied?.stretch ?? 1;
  const y = c.yMm - run.plan.sections[c.section - 1]!.startMm;
  const left = standingLeft(run, c.section, y);
  const lay = (stretchOf(run, c.section) - followed) * y;
  return {
    dx: c.dxMm === null ? null : c.dxMm + undone.dx - left.dx,
    dy: c.dyMm === null ? null : c.dyMm + undone.dy - left.dy + lay,
  };
}

export const refusedRun = (message: string) => refuse({ code: 'refused' as const, message });

/** Copies that are not cut yet, and those that were spoiled: at least one, so that there is something to plan. */
export function copiesLeft(run: Run): number {
  const waiting = run.sections.filter((s) => s.state === 'waiting');
  const copies = waiting.reduce((sum, s) => sum + run.plan.sections[s.index - 1]!.copies, 0);
  return Math.max(1, copies + run.sections.reduce((sum, s) => sum + (s.spoiled ?? 0), 0));
}

/** Checked sections from which the rest of a run is worth planning anew. */
const TELLS_FROM = 2;

/** Whether this run has told enough of its drift, and has enough left, to plan the rest anew. */
export const restIsWorthPlanning = (run: Run): boolean =>
  new Set(run.checks.map((c) => c.section)).size >= TELLS_FROM &&
  run.sections.filter((s) => s.state === 'waiting').length >= 2;
