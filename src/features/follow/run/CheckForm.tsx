'use client';

import { type CheckPlace, type CheckWay } from '@/core/setup';
import Button from 'react-bootstrap/Button';
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
import { AnotherWay, Beside, Places, SectionChoice } from './CheckChoices';
import { CheckPicture, sidesOf } from './CheckPicture';
import { checkDoubts } from './checkDoubts';
import {
  NOTHING_TYPED,
  offsetsText,
  readCheck,
  sidesMissing,
  wholeCheck,
  withOffset,
  withWay,
  type CheckField,
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
  // A size without its side is given the side; anything else is moved.
  const move = (axis: 'across' | 'along', mm: number): void =>
    setTyped((t) =>
      sidesMissing(t, way, unit).includes(axis) ? withWay(t, axis, mm > 0) : withOffset(t, axis, mm, unit),
    );
  const found = offsetsText(now.offsets, unit);
  const sides = sidesOf(loaded);
  const waits = asking.question
    ? `first settle ${typed[asking.question.field as CheckField].trim()}`
    : sidesMissing(typed, way, unit).length > 0
      ? 'first say its side'
      : null;
  return (
    <form
      className="check-work"
      aria-label={`Check section ${section}`}
      onSubmit={(event) => {
        event.preventDefault();
        keep(typed);
      }}
    >
      <fieldset disabled={!ready} style={{ display: 'contents' }}>
        <CheckPicture
          offsets={now.offsets}
          toleranceMm={toleranceMm}
          outline={outline}
          item={item}
          loaded={loaded}
          unit={unit}
          onMove={way === 'gaps' ? null : move}
        />
        <div className="stack check-figures">
          <Places place={place} onPlace={setPlace} />
          <OffsetFields
            way={way}
            typed={typed}
            errors={errors}
            offsets={now.offsets}
            {...sides}
            unit={unit}
            onType={(next) => {
              setTyped(next);
              asking.withdraw();
            }}
            onMove={move}
          />
          {(found !== null || way === 'gaps') && (
            <p className="small-print mb-0">
              {found !== null
                ? `The cut lies ${found}${way === 'gaps' ? ': half the difference of the gaps' : ''}.`
                : 'A gap counts where the cut lies outside the print. The cut is off by half their difference.'}
            </p>
          )}
          {here.length > 0 && <Beside by={here.map((c) => c.by)} both={beside} onBoth={setBeside} />}
          <AskRow question={asking.question} onAnswer={answer} />
          <div>
            <Button
              type="submit"
              variant={main ? 'main' : 'plain'}
              className={`w-100 big-act${waits ? ' waits' : ''}`}
              disabled={pending}
            >
              {waits ? `Keep it: ${waits}` : 'Keep this check'}
            </Button>
            <span role="status">{said}</span>
          </div>
          <AnotherWay way={way} onWay={setWay} many={sections.length > 1}>
            <SectionChoice
              sections={sections}
              known={known}
              value={section}
              onChoose={(chosen) => {
                setSection(chosen);
                setPlace(startAt(chosen));
              }}
            />
          </AnotherWay>
        </div>
      </fieldset>
    </form>
  );
}
