'use client';

import { useState, useTransition } from 'react';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import type { OffsetAxis } from '@/core/units';
import { KeepRow } from '@/features/forms/KeepRow';
import { keeping } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { ownPageWasRun } from './actions';

/** The page's first and last number, as the run before had them. */
export interface PageBefore {
  readonly lowest: number;
  readonly highest: number;
}

const FIELDS = [
  ['medium', 'Printed on', 'col-12', false],
  ['coarse', 'Coarse step, if it has one', 'col-12', false],
  ['across', 'Pick across', 'col-6', true],
  ['along', 'Pick along the feed', 'col-6', true],
  ['lowest', 'Lowest number on the page', 'col-6', true],
  ['highest', 'Highest number on the page', 'col-6', true],
  ['answer', 'What it said at the end', 'col-12', false],
] as const;
type Field = (typeof FIELDS)[number][0];
type Texts = Readonly<Record<Field, string>>;

const AXIS_WORDS: Readonly<Record<OffsetAxis, string>> = { across: 'across', along: 'along the feed' };

/** What came of it: a pick at the end of the page wants another pass. */
export const keptWords = (atEnd: readonly OffsetAxis[]): string =>
  atEnd.length === 0
    ? 'Kept.'
    : `Kept. The pick ${atEnd.map((a) => AXIS_WORDS[a]).join(' and ')} is the last on the page: the right one may lie beyond it. Run the machine’s page once more before you prove it.`;

const figure = (text: string): number =>
  Number(text.trim().replace(',', '.').replace('−', '-') || Number.NaN);

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
  const blank: Texts = {
    ...{ medium, coarse: '', across: '', along: '', answer: '' },
    ...{ lowest: before ? String(before.lowest) : '', highest: before ? String(before.highest) : '' },
  };
  const [texts, setTexts] = useState(blank);
  const [wrong, setWrong] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const keepIt = (): void =>
    start(async () => {
      const { medium: on, coarse, answer } = texts;
      const [across, along] = [figure(texts.across), figure(texts.along)];
      const [lowest, highest] = [figure(texts.lowest), figure(texts.highest)];
      const run = { setupId, medium: on, coarse, answer, across, along, lowest, highest };
      const done = await keeping(['own page', run], (stamp) => ownPageWasRun(run, stamp));
      setWrong(done.ok ? {} : done.fields);
      setSaid(done.ok ? keptWords(done.value.atEnd) : done.message);
      if (done.ok) setTexts({ ...blank, lowest: texts.lowest, highest: texts.highest });
    });
  return (
    <form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        keepIt();
      }}
    >
      <div className="row g-2">
        {FIELDS.map(([name, label, width, number]) => (
          <div className={width} key={name}>
            <FormLabel htmlFor={`own-${name}`}>{label}</FormLabel>
            <FormControl
              id={`own-${name}`}
              value={texts[name]}
              inputMode={number ? 'decimal' : undefined}
              maxLength={number ? 12 : 80}
              isInvalid={wrong[name] !== undefined}
              aria-describedby={wrong[name] ? `own-${name}-wrong` : undefined}
              onChange={(e) => setTexts({ ...texts, [name]: e.target.value })}
            />
            {wrong[name] && (
              <span id={`own-${name}-wrong`} className="field-error">
                {wrong[name]}
              </span>
            )}
          </div>
        ))}
      </div>
      <KeepRow words="Keep this run" pending={pending || !ready} said={said} />
    </form>
  );
}
