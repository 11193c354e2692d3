'use client';

import { type CheckPlace, type CheckWay } from '@/core/setup';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import type { Outline } from '@/core/drift';
import type { Loaded } from '@/core/geometry';
import type { Usual } from '@/core/record/plausible';
import type { LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { keeping, whyNotDone } from '@/features/forms/keeping';
import { AskRow } from '@/features/forms/kit/AskRow';
import { useAsk } from '@/features/forms/kit/useAsk';

import { keepCheck } from '../actions';
import { CheckPicture } from './CheckPicture';
import { checkDoubts } from './checkDoubts';
import {
  NOTHING_TYPED,
  offsetsText,
  readCheck,
  wholeCheck,
  withOffset,
  type TypedCheck,
} from './checkReading';
import { OffsetFields } from './OffsetFields';

/** A check that this screen shows. */
export interface KnownCheck {
  readonly id: string;
  readonly section: number;
  readonly place: CheckPlace;
  readonly by: string;
}

/** Reads where the cut landed at the first or the last row of a section. */
export function CheckForm({
  runId,
  sections,
  known,
  toleranceMm,
  usual,
  outline,
  item,
  loaded,
  main,
  unit,
}: {
  runId: string;
  /** Sections that are cut, the newest first. */
  sections: readonly number[];
  /** What was read already, as far as this screen has seen. */
  known: readonly KnownCheck[];
  toleranceMm: number;
  /** What its figures are judged by. */
  usual: Usual;
  outline: Outline;
  /** As it lies on the media. */
  item: { readonly widthMm: number; readonly heightMm: number };
  loaded: Loaded;
  /** Whether keeping it is the one main action. */
  main: boolean;
  unit: LengthUnit;
}) {
  const [way, setWay] = useState<CheckWay>('comb');
  const [section, setSection] = useState(sections[0]!);
  const startAt = (s: number): CheckPlace =>
    known.some((c) => c.section === s && c.place === 'first row') ? 'last row' : 'first row';
  const [place, setPlace] = useState<CheckPlace>(() => startAt(section));
  const [beside, setBeside] = useState(false);
  const [typed, setTyped] = useState(NOTHING_TYPED);
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const asking = useAsk();

  const here = known.filter((c) => c.section === section && c.place === place);

  const now = readCheck(typed, way, unit);
  const keep = (typed: TypedCheck): void => {
    const { offsets, errors: wrong } = wholeCheck(typed, way, unit);
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return;
    if (asking.asks(checkDoubts(typed, offsets, way, usual, unit))) return;
    const sure = asking.answers();
    start(async () => {
      const replaces = beside ? [] : here.map((c) => c.id);
      const check = { runId, section, place, way, ...offsets, replaces };
      const done = await keeping(['check', check], (stamp) => keepCheck(check, { ...stamp, sure }));
      if (!done.ok) {
        setSaid(whyNotDone(done));
        return;
      }
      setSaid(`Kept: section ${section}, ${place}.`);
      setTyped(NOTHING_TYPED);
      asking.forget();
      setBeside(false);
      if (place === 'first row') setPlace('last row');
    });
  };
  const answer = (meant: string): void => {
    const { question } = asking;
    if (!question) return;
    const next = { ...typed, [question.field]: asking.answer(question, meant) };
    setTyped(next);
    keep(next);
  };
  const move = (axis: 'across' | 'along', mm: number): void => setTyped((t) => withOffset(t, axis, mm, unit));
  const found = offsetsText(now.offsets, unit);
  return (
    <form
      className="panel"
      aria-label={`Check section ${section}`}
      onSubmit={(event) => {
        event.preventDefault();
        keep(typed);
      }}
    >
      <fieldset disabled={!ready} style={{ display: 'contents' }}>
        <h2>Check section {section}: where is the cut?</h2>
        {sections.length > 1 && (
          <SectionChoice
            sections={sections}
            known={known}
            value={section}
            onChoose={(chosen) => {
              setSection(chosen);
              setPlace(startAt(chosen));
            }}
          />
        )}
        <div className="row g-2">
          <PlaceAndWay place={place} way={way} onPlace={setPlace} onWay={setWay} />
          <div className="col-12">
            <CheckPicture
              offsets={now.offsets}
              toleranceMm={toleranceMm}
              outline={outline}
              item={item}
              loaded={loaded}
              unit={unit}
              onMove={way === 'gaps' ? null : move}
            />
          </div>
          <OffsetFields
            way={way}
            typed={typed}
            errors={errors}
            offsets={now.offsets}
            unit={unit}
            onType={(next) => {
              setTyped(next);
              asking.withdraw();
            }}
            onMove={move}
          />
          <p className="small-print mb-0" style={{ minHeight: '3em' }}>
            {found !== null
              ? `The cut lies ${found}${way === 'gaps' ? ': half the difference of the gaps' : ''}.`
              : way === 'gaps'
                ? 'A gap counts where the cut lies outside the print. The cut is off by half their difference.'
                : 'Type it, or move the dashed cut in the picture with arrow keys or a finger until it looks like the piece.'}
          </p>
        </div>
        {here.length > 0 && (
          <label className="d-flex gap-2 align-items-center mt-2 mb-0" style={{ minHeight: 44 }}>
            <FormCheckInput
              type="checkbox"
              className="m-0 flex-shrink-0"
              checked={beside}
              onChange={(event) => setBeside(event.target.checked)}
            />
            <span>
              read already by {here.map((c) => c.by).join(', ')}: tick to count both, else this replaces it
            </span>
          </label>
        )}
        <AskRow question={asking.question} onAnswer={answer} />
        <div className="d-flex gap-3 align-items-center mt-3 flex-wrap">
          <Button type="submit" variant={main ? 'main' : 'plain'} disabled={pending}>
            Keep this check
          </Button>
          <span role="status">{said}</span>
        </div>
      </fieldset>
    </form>
  );
}

/** Which of the cut sections is read. */
function SectionChoice({
  sections,
  known,
  value,
  onChoose,
}: {
  sections: readonly number[];
  known: readonly KnownCheck[];
  value: number;
  onChoose: (section: number) => void;
}) {
  return (
    <div className="d-flex gap-2 align-items-center mb-2">
      <label htmlFor="check-section">Section</label>
      <FormSelect
        id="check-section"
        className="w-auto"
        value={value}
        onChange={(event) => onChoose(Number(event.target.value))}
      >
        {sections.map((s) => (
          <option key={s} value={s}>
            {known.some((c) => c.section === s) ? s : `${s}, not checked`}
          </option>
        ))}
      </FormSelect>
    </div>
  );
}

/** Where on the section, and how it is read. */
function PlaceAndWay({
  place,
  way,
  onPlace,
  onWay,
}: {
  place: CheckPlace;
  way: CheckWay;
  onPlace: (place: CheckPlace) => void;
  onWay: (way: CheckWay) => void;
}) {
  return (
    <>
      <div className="col-6">
        <FormLabel htmlFor="check-place">Where</FormLabel>
        <FormSelect
          id="check-place"
          value={place}
          onChange={(event) => onPlace(event.target.value as CheckPlace)}
        >
          <option>first row</option>
          <option>last row</option>
        </FormSelect>
      </div>
      <div className="col-6">
        <FormLabel htmlFor="check-way">Read by</FormLabel>
        <FormSelect id="check-way" value={way} onChange={(event) => onWay(event.target.value as CheckWay)}>
          <option value="comb">comb or loupe</option>
          <option value="gaps">gaps round it</option>
          <option value="ruler">ruler</option>
        </FormSelect>
      </div>
    </>
  );
}
