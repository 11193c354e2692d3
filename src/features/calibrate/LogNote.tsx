import { MOVED_FROM, type Assessment } from '@/core/calibration';
import type { LengthUnit } from '@/core/units';

import { shiftWords } from './sentences';

/** What the log adds to the sheet that was read, in words; nothing while it holds too little. */
export function logWords(
  a: Assessment,
  unit: LengthUnit,
): { readonly words: string; readonly moved: boolean } | null {
  if (!a.fromLog) return null;
  const { sinceEvent, moved } = a.fromLog;
  const sheet = `This sheet alone says ${shiftWords(a.estimate.field.exMm, a.estimate.field.eyMm, unit)}`;
  if (moved > MOVED_FROM)
    return {
      moved: true,
      words: `${sheet}, and that does not go with the ${sinceEvent} loads on record before it: the rig seems to have moved and nobody noted why. So this sheet counts nearly alone. Note what happened on the rig’s page, or cut another load.`,
    };
  return {
    moved: false,
    words: `${sheet}. ${sinceEvent} loads on record, with what was typed since, say where the rig lands on average: both together are what is corrected; the rest is this load’s own and will not come again.`,
  };
}

/** What the log makes of the sheet that was read. */
export function LogNote({ assessment, unit }: { assessment: Assessment; unit: LengthUnit }) {
  const note = logWords(assessment, unit);
  return note && <p className={note.moved ? 'notice m-0' : 'small-print m-0'}>{note.words}</p>;
}
