'use client';

import type { OffsetAxis } from '@/core/units';
import { Field, KeptForm } from '@/features/forms/kit/Fields';
import { figure, plainWords } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';

import { ownPageWasRun } from '../acts/actions';

/** The page's first and last number, as the run before had them. */
export interface PageBefore {
  readonly lowest: number;
  readonly highest: number;
}

const number = figure('Type the number as it stands on the page, for example −3.');

const FIELDS = [
  ['medium', 'Printed on', 'col-12', plainWords],
  ['coarse', 'Coarse step, if it has one', 'col-12', plainWords],
  ['across', 'Pick across', 'col-6', number],
  ['along', 'Pick along the feed', 'col-6', number],
  ['lowest', 'Lowest number on the page', 'col-6', number],
  ['highest', 'Highest number on the page', 'col-6', number],
  ['answer', 'What it said at the end', 'col-12', plainWords],
] as const;

const AXIS_WORDS: Readonly<Record<OffsetAxis, string>> = { across: 'across', along: 'along the feed' };

/** What came of it: a pick at the end of the page wants another pass. */
export const keptWords = (atEnd: readonly OffsetAxis[]): string =>
  atEnd.length === 0
    ? 'Kept.'
    : `Kept. The pick ${atEnd.map((a) => AXIS_WORDS[a]).join(' and ')} is the last on the page: the right one may lie beyond it. Run the machine’s page once more before you prove it.`;

/** What was picked on the machine's own calibration page: kept as it was typed until it is on record. */
export function OwnPageForm({
  setupId,
  medium,
  before,
}: {
  setupId: string;
  medium: string;
  before: PageBefore | null;
}) {
  const blank = { medium, coarse: '', across: '', along: '', answer: '' };
  const form = useKeptForm({
    what: ['own page', setupId],
    initial: {
      ...blank,
      ...{ lowest: before ? String(before.lowest) : '', highest: before ? String(before.highest) : '' },
    },
    readers: {
      ...{ medium: plainWords, coarse: plainWords, answer: plainWords },
      ...{ across: number, along: number, lowest: number, highest: number },
    },
    after: ({ lowest, highest }) => ({ ...blank, lowest, highest }),
    send: (run, stamp) => ownPageWasRun({ setupId, ...run }, stamp),
    done: (_, { atEnd }) => keptWords(atEnd),
  });
  return (
    <KeptForm form={form} words="Keep this run">
      <div className="row g-2">
        {FIELDS.map(([name, label, width, reader]) => (
          <Field
            key={name}
            {...{ form, name, label, width, id: `own-${name}` }}
            figures={reader === number}
            maxLength={reader === number ? 12 : 80}
          />
        ))}
      </div>
    </KeptForm>
  );
}
