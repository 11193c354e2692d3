import { UNIT_WORDS } from '@/core/correction/unitWords';
import { SETTLED_WORDS } from '@/core/daily';
import { noteText } from '@/core/drawing/notes';
import { fixed, placesOfStep } from '@/core/units';

import type { DailyAnswer } from './dailyFile';

/** What was done to a file, in words: beside it in a folder, and on a terminal. */
export function reportLines(answer: DailyAnswer, setup: string): string[] {
  const { report, lies, mustShow } = answer;
  const wrong = mustShow.filter((m) => m.differs);
  const list = (of: typeof mustShow, key: 'value' | 'shows'): string =>
    of.map((m) => `${m.name} ${fixed(m[key], placesOfStep(m.step))} ${UNIT_WORDS[m.unit]}`).join(', ');
  return [
    `${answer.fileName}, for ${setup}`,
    answer.changed
      ? `Corrected: its farthest point moves ${report.farthestMoveMm.toFixed(2)} mm.`
      : 'Unchanged: no correction needed in the file.',
    `${SETTLED_WORDS[lies.by]}${lies.marksDiffer ? ' They say otherwise than the rig’s page; look at it before you cut.' : ''}`,
    ...(lies.overMm > 0.05
      ? [`It reaches ${lies.overMm.toFixed(2)} mm over the edge of the sheet: is its zero right?`]
      : []),
    ...(mustShow.length > 0 ? [`While it is cut the machine must show: ${list(mustShow, 'value')}.`] : []),
    ...(wrong.length > 0
      ? [`As far as the log knows it shows: ${list(wrong, 'shows')}. Change over first.`]
      : []),
    ...report.notes.map(noteText),
    `In the log: ${answer.fileId}`,
  ];
}
