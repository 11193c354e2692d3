'use client';

import type { Usual } from '@/core/record/plausible';
import type { LengthUnit } from '@/core/units';
import { doubts } from '@/features/forms/kit/doubts';
import { Choice, Field, KeptForm } from '@/features/forms/kit/Fields';
import { figure, length, lengthOrNone, plainWords } from '@/features/forms/kit/typed';
import { useKeptForm } from '@/features/forms/kit/useKeptForm';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { feedIsTyped, keepTape, keepTwoMarks, startStrip } from './actions';

/** A known distance by steel tape: the true length of the print itself. */
export function TapeForm({ setupId, unit }: { setupId: string; unit: LengthUnit }) {
  const form = useKeptForm({
    ...{ unit, what: ['tape', setupId], done: 'Kept.' },
    initial: { of: 'print', nominalMm: '', measuredMm: '' },
    readers: { of: plainWords, nominalMm: length, measuredMm: length },
    judge: ({ nominalMm, measuredMm }, typed) =>
      doubts('measuredMm', typed.measuredMm, 'known length', measuredMm, { nominalMm }, unit),
    after: ({ of }) => ({ of, nominalMm: '', measuredMm: '' }),
    send: ({ of, ...lengths }, stamp) =>
      keepTape({ setupId, of: of === 'cut' ? 'cut' : 'print', uMm: 0.3, ...lengths }, stamp),
  });
  return (
    <KeptForm form={form} words="Keep it">
      <div className="row g-2">
        <Choice
          {...{
            form,
            id: 'roll-of',
            name: 'of',
            label: 'Measured on',
            width: 'col-12',
            options: MEASURED_ON,
          }}
        />
        <Field form={form} id="roll-nominalMm" name="nominalMm" label={`Should be, ${unit}`} figures />
        <Field form={form} id="roll-measuredMm" name="measuredMm" label={`Tape says, ${unit}`} figures />
      </div>
    </KeptForm>
  );
}

const MEASURED_ON = [
  ['print', 'the print'],
  ['cut', 'a cut line'],
] as const;

/** The printer's feed compensation: from what to what, and that it was typed. */
export function FeedForm({
  setupId,
  now,
  next,
}: {
  setupId: string;
  /** As it was typed last; null while nobody told. */
  now: number | null;
  /** What would make the print true; null when there is nothing to change. */
  next: number | null;
}) {
  const form = useKeptForm({
    ...{ what: ['feed', setupId], done: '' },
    initial: { feedPercent: (now ?? 100).toFixed(2) },
    readers: { feedPercent: figure('Type the feed as a number, for example 99.85.') },
    judge: ({ feedPercent }, typed) =>
      doubts('feedPercent', typed.feedPercent, 'feed', feedPercent, {}, 'mm'),
    after: (typed) => typed,
    send: ({ feedPercent }, stamp) => feedIsTyped({ setupId, feedPercent }, stamp),
  });
  if (now !== null && next !== null)
    return (
      <>
        <div className="type-row">
          <span>printer’s feed</span>
          <span className="mono">{now.toFixed(2)} →</span>
          <span className="mono to">{next.toFixed(2)}</span>
          <span className="mono">%</span>
        </div>
        <p className="small-print">
          If the printer asks for a length instead, give it the two lengths of the tape. A print that becomes
          longer with a smaller figure counts the other way round: then type {(2 * now - next).toFixed(2)} %.
        </p>
        <PendingButton words={`I have typed ${next.toFixed(2)} %`} onPress={() => keepFeed(setupId, next)} />
      </>
    );
  return (
    <KeptForm form={form} words={now === null ? 'Note it' : 'It was changed'} className="mt-2">
      <Field
        {...{ form, id: 'roll-feed', name: 'feedPercent', label: 'Printer’s feed now, %' }}
        width=""
        figures
      />
    </KeptForm>
  );
}

async function keepFeed(setupId: string, feedPercent: number): Promise<string | undefined> {
  const done = await keeping(['feed', setupId, feedPercent], (stamp) =>
    feedIsTyped({ setupId, feedPercent }, stamp),
  );
  return done.ok ? undefined : whyNotDone(done);
}

const MARK_FIELDS = [
  ['firstDyMm', 'First, along', '+ further, − back'],
  ['lastDyMm', 'Last, along', '+ further, − back'],
  ['firstDxMm', 'First, across', '+ right, − left'],
  ['lastDxMm', 'Last, across', '+ right, − left'],
] as const;

/** First and last mark of a long piece: how far the cut is off at each. */
export function TwoMarksForm({ setupId, usual, unit }: { setupId: string; usual: Usual; unit: LengthUnit }) {
  const form = useKeptForm({
    ...{ unit, what: ['two marks', setupId], done: 'Kept, and worked into the drift.' },
    initial: { lengthMm: '', firstDyMm: '', lastDyMm: '', firstDxMm: '', lastDxMm: '' },
    readers: {
      ...{ lengthMm: length, firstDyMm: length, lastDyMm: length },
      ...{ firstDxMm: lengthOrNone, lastDxMm: lengthOrNone },
    },
    judge: (values, typed) =>
      MARK_FIELDS.flatMap(([name]) => doubts(name, typed[name], 'offset', values[name], usual, unit)),
    send: ({ lengthMm, firstDyMm, lastDyMm, firstDxMm, lastDxMm }, stamp) =>
      keepTwoMarks(
        {
          ...{ setupId, lengthMm },
          first: { dyMm: firstDyMm, dxMm: firstDxMm },
          last: { dyMm: lastDyMm, dxMm: lastDxMm },
        },
        stamp,
      ),
  });
  return (
    <KeptForm form={form} words="Keep both marks">
      <div className="row g-2">
        <Field form={form} id="roll-lengthMm" name="lengthMm" label={`Between them, ${unit}`} figures />
        {MARK_FIELDS.map(([name, label, hint]) => (
          <Field
            key={name}
            {...{ form, name, hint, id: `roll-${name}`, label: `${label}, ${unit}` }}
            figures
          />
        ))}
      </div>
    </KeptForm>
  );
}

/** A long strip with stations along both edges and the middle. */
export function StripForm({ setupId, unit }: { setupId: string; unit: LengthUnit }) {
  const form = useKeptForm({
    ...{ unit, what: ['strip', setupId], done: '' },
    initial: unit === 'mm' ? { length: '5000', spacing: '500' } : { length: '200', spacing: '20' },
    readers: { length, spacing: length },
    send: (values, stamp) => startStrip({ setupId, ...values }, stamp),
  });
  return (
    <KeptForm form={form} words="Lay out the strip">
      <div className="row g-2">
        <Field
          {...{ form, id: 'roll-length', name: 'length', label: `Strip, ${unit}`, hint: 'from 1 to 30 m' }}
          figures
        />
        <Field form={form} id="roll-spacing" name="spacing" label={`A row every, ${unit}`} figures />
      </div>
    </KeptForm>
  );
}
