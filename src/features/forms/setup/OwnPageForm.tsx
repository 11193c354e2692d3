'use client';

import type { PagePick, PageRange } from '@/core/setup';
import { capital, OFFSET_AXES, type OffsetAxis } from '@/core/units';
import { Field, KeptForm } from '@/features/forms/kit/Fields';
import { plainWords } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';

import { ownPageWasRun } from '../acts/actions';

/** How the page's lines are labelled, as the run before had them. */
export type PageBefore = Readonly<Record<OffsetAxis, PageRange>>;

const AXIS_FIELDS = [
  ['pick', 'Pick'],
  ['from', 'First on the page'],
  ['to', 'Last on the page'],
  ['middle', 'Its middle'],
] as const;

const AXIS_WORDS: Readonly<Record<OffsetAxis, string>> = { across: 'across', along: 'along the feed' };

const WORD_LABELS = {
  medium: 'Printed on',
  coarse: 'Coarse step, if it has one',
  answer: 'What it said at the end',
} as const;

type LabelField = `${OffsetAxis}.${keyof PagePick}`;

const READERS = {
  ...{ medium: plainWords, coarse: plainWords, answer: plainWords },
  ...(Object.fromEntries(
    OFFSET_AXES.flatMap((axis) => AXIS_FIELDS.map(([field]) => [`${axis}.${field}`, plainWords])),
  ) as Record<LabelField, typeof plainWords>),
};

const axisOf = (labels: Readonly<Record<LabelField, string>>, axis: OffsetAxis): PagePick => ({
  ...{ pick: labels[`${axis}.pick`], from: labels[`${axis}.from`] },
  ...{ to: labels[`${axis}.to`], middle: labels[`${axis}.middle`] },
});

/** What came of it: a pick at the end of the page wants another pass. */
export const keptWords = (atEnd: readonly OffsetAxis[]): string =>
  atEnd.length === 0
    ? 'Kept.'
    : `Kept. The pick ${atEnd.map((a) => AXIS_WORDS[a]).join(' and ')} is at the end of the range: run the page once more before you prove it.`;

const rangesOf = (before: PageBefore | null) =>
  Object.fromEntries(
    OFFSET_AXES.flatMap((axis) =>
      (['from', 'to', 'middle'] as const).map((field) => [`${axis}.${field}`, before?.[axis][field] ?? '']),
    ),
  ) as Record<`${OffsetAxis}.${'from' | 'to' | 'middle'}`, string>;

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
  const blank = { medium, coarse: '', 'across.pick': '', 'along.pick': '', answer: '' };
  const form = useKeptForm({
    what: ['own page', setupId],
    initial: { ...blank, ...rangesOf(before) },
    readers: READERS,
    after: (typed) => ({ ...typed, ...blank }),
    send: ({ medium, coarse, answer, ...labels }, stamp) =>
      ownPageWasRun(
        {
          ...{ setupId, medium, coarse, answer },
          ...{ across: axisOf(labels, 'across'), along: axisOf(labels, 'along') },
        },
        stamp,
      ),
    done: (_, { atEnd }) => keptWords(atEnd),
  });
  return (
    <KeptForm form={form} words="Keep this run">
      <div className="row g-2">
        {(['medium', 'coarse'] as const).map((name) => (
          <Field
            key={name}
            {...{ form, name, label: WORD_LABELS[name], width: 'col-12', id: `own-${name}` }}
            figures={false}
            maxLength={60}
          />
        ))}
      </div>
      {OFFSET_AXES.map((axis) => (
        <fieldset key={axis} className="mt-2">
          <legend className="fs-6 mb-1">{capital(AXIS_WORDS[axis])}</legend>
          <div className="row g-2">
            {AXIS_FIELDS.map(([field, label]) => (
              <Field
                key={field}
                {...{ form, name: `${axis}.${field}` as const, label, width: 'col-6' }}
                id={`own-${axis}-${field}`}
                figures="fractions"
                maxLength={12}
              />
            ))}
          </div>
        </fieldset>
      ))}
      <div className="row g-2 mt-1">
        <Field
          {...{ form, name: 'answer' as const, label: WORD_LABELS.answer, width: 'col-12', id: 'own-answer' }}
          figures={false}
          maxLength={60}
        />
      </div>
    </KeptForm>
  );
}
