import { useEffect, useState } from 'react';

import type { LengthUnit } from '@/core/units';
import type { Setup } from '@/server/setups/setup';

import {
  initialFields,
  inOtherUnit,
  writeDraft,
  type PlanFields,
  type PlannedFrom,
  type SetupHabits,
} from './planFields';

/** What is typed on the plan form, `read` once that part is here: kept in this browser until it is frozen, and through a change of unit. */
export function usePlanDraft(
  setup: Setup,
  unit: LengthUnit,
  habits: SetupHabits | null,
  read: typeof import('./readPlan') | null,
  /** An earlier run to start from. */
  from: PlannedFrom | null,
) {
  const opening = (): PlanFields => from?.fields ?? initialFields(setup, unit, habits);
  const [fields, setFields] = useState<PlanFields>(opening);
  const [shownIn, setShownIn] = useState(unit);
  const [restored, setRestored] = useState(false);
  const key = `plan ${setup.id}${from ? ` ${from.key}` : ''}`;
  if (shownIn !== unit) {
    setShownIn(unit);
    setFields(inOtherUnit(fields, shownIn, unit));
  }
  // After the first paint: the server knows nothing of this browser's drafts.
  useEffect(() => {
    if (!read) return;
    const kept = read.readDraft(window.localStorage.getItem(key), unit);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- a store outside React is read once
    if (kept) setFields(kept);
    setRestored(true);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each rig
  }, [key, read]);
  useEffect(() => {
    if (restored) window.localStorage.setItem(key, writeDraft(fields, unit));
  }, [restored, key, fields, unit]);
  return {
    fields,
    setFields,
    startAfresh: () => setFields(opening()),
    forget: () => window.localStorage.removeItem(key),
  };
}
