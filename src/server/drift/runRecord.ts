import type { DriftReading, DriftRun } from '@/core/drift';
import { registersEachSection } from '@/core/layout';
import { type DriftAxis } from '@/db/stored/drift';

import { inForce, ownOffset, type Run, type RunCheck } from '@/server/runs/run';

/** One axis of a run as pieces between registrations from scratch; offsets as the rig's own, file corrections undone. */
export function driftRunsOf(run: Run, axis: DriftAxis): DriftRun[] {
  const starts = [
    1,
    ...inForce(run, 'registered').flatMap((e) => (e.section === null ? [] : [e.section])),
  ].sort((a, b) => a - b);
  return starts.flatMap((from, piece) => {
    const to = starts[piece + 1] ?? Infinity;
    const own = run.checks.filter((c) => c.section >= from && c.section < to);
    const list = readingsOf(run, own, axis);
    const sections = run.plan.sections.filter((s) => s.index >= from && s.index < to);
    if (sections.length === 0) return [];
    const atMarks = registersEachSection(run.plan)
      ? sections.map((s) => s.startMm / 1000)
      : [sections[0]!.startMm / 1000];
    const kept = inForce(run, 'slip-kept').filter((e) => e.detail.axis === axis);
    return [
      {
        id: piece === 0 ? run.label : `${run.label}, registered anew before section ${from}`,
        // With marks at both ends the cutter stretches the cut to fit: every reading is as good as at a mark.
        registeredAtM: run.plan.way === 'both-ends' ? list.map((r) => r.yM) : atMarks,
        readings: list.map(({ id, yM, offsetMm, uMm }) => ({ id, yM, offsetMm, uMm })),
        slipsBefore: list.flatMap((r, i) =>
          kept.some((e) => e.detail.section === r.section && e.detail.place === r.place) ? [i] : [],
        ),
      },
    ];
  });
}

/** Readings of one axis in order of distance; several of the same place are taken together by their weights. */
function readingsOf(run: Run, checks: readonly RunCheck[], axis: DriftAxis) {
  const places = new Map<string, { section: number; place: string; readings: DriftReading[] }>();
  for (const c of checks) {
    const offset = ownOffset(run, c)[axis === 'along' ? 'dy' : 'dx'];
    if (offset === null) continue;
    const key = `${c.section} ${c.place}`;
    const at = places.get(key) ?? { section: c.section, place: c.place, readings: [] };
    at.readings.push({ id: c.id, yM: c.yMm / 1000, offsetMm: offset, uMm: c.uMm });
    places.set(key, at);
  }
  return [...places.values()].map(({ section, place, readings: same }) => ({
    ...together(same),
    section,
    place,
  }));
}

/** Readings of one place as one: mean by 1/u². */
export function together(same: readonly DriftReading[]): DriftReading {
  const weights = same.map((r) => 1 / r.uMm ** 2);
  const total = weights.reduce((a, b) => a + b, 0);
  return {
    ...same[0]!,
    offsetMm: same.reduce((sum, r, i) => sum + weights[i]! * r.offsetMm, 0) / total,
    uMm: 1 / Math.sqrt(total),
  };
}
