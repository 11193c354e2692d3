import Link from 'next/link';

import { dateText } from '@/clock/dates';
import { lengthText, type LengthUnit } from '@/core/units';
import type { StudyOnRecord } from '@/server/sessions/readAgain';

/** How well sheets of this rig are read, as the newest repeat study says. */
export function Readers({ record, unit }: { record: StudyOnRecord; unit: LengthUnit }) {
  const { study, sessionId, at } = record;
  return (
    <section className="panel">
      <h2>How well it is read</h2>
      <p className="mb-2">
        {study.who.join(', ')}, {dateText(at, 'd MMM yyyy')}: one reading is off by{' '}
        {lengthText(study.oneReadingMm, unit)} typically (standard deviation); two that are further apart than{' '}
        {lengthText(study.smallestSeenMm, unit)} differ by more than chance.
      </p>
      <Link href={`/calibrate/${sessionId}/again`}>The looks behind it, and read more</Link>
    </section>
  );
}
