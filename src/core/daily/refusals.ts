import { fileRefusalText } from '../drawing/file';

import type { DailyRefusal } from './correctDaily';
import { NO_SVG } from './ownFiles';

/** What is wrong with a file that a setup’s correction should go into, and what would be right. */
export function dailyRefusalText(refusal: DailyRefusal): string {
  if (refusal.code === 'below-zero') return NO_SVG;
  if (refusal.code !== 'frame-unknown') return fileRefusalText(refusal);
  return refusal.ways > 1
    ? `The marks drawn in this file fit the setup’s in ${refusal.ways} ways, so they do not tell how it lies. Say on the rig’s page how its cut files lie.`
    : 'Nothing says where this file lies on the sheet. Say on the rig’s page how its cut files lie, or draw the setup’s registration marks in the file.';
}
