import { EVENT_KINDS, type EventKind } from '../setup';

/** When a rig asks to be checked: some shops check after every event, others only when something shows. */
export interface CheckPolicy {
  /** Events after which it asks. */
  readonly events: readonly EventKind[];
  /** Days without a cut after which it asks; null never. */
  readonly idleDays: number | null;
  /** Whether the watch of its loads asks, when what is usual is left. */
  readonly signals: boolean;
}

export const USUAL_POLICY: CheckPolicy = { events: EVENT_KINDS, idleDays: null, signals: true };

const DAY_MS = 86_400_000;

/** Days since the last cut when they are more than the rig may rest; else null. */
export function idleDays(policy: CheckPolicy, lastCut: Date | null, now: Date): number | null {
  if (policy.idleDays === null || lastCut === null) return null;
  const days = Math.floor((+now - +lastCut) / DAY_MS);
  return days > policy.idleDays ? days : null;
}
