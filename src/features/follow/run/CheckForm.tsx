'use client';

import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import type { Outline } from '@/core/drift';
import type { Loaded } from '@/core/geometry';
import type { LengthUnit } from '@/core/units';
import type { CheckPlace, CheckWay } from '@/server/runs/run';
import { useHydrated } from '@/ui/useHydrated';

import { keeping } from '@/features/forms/keeping';

import { keepCheck } from '../actions';
import { CheckPicture } from './CheckPicture';
import {
  NOTHING_TYPED,
  nudged,
  offsetsText,
  readCheck,
  withOffset,
  withTyped,
  withWay,
  type CheckField,
} from './checkReading';

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

  const here = known.filter((c) => c.section === section && c.place === place);

  const now = readCheck(typed, way, unit);
  const keep = (): void => {
    const { offsets } = now;
    const wrong: Record<string, string> = { ...now.errors };
    if (Object.keys(wrong).length === 0 && offsets.dxMm === null && offsets.dyMm === null)
      wrong[way === 'gaps' ? 'left' : 'along'] =
        'Enter at least one direction; 0 when the cut is where it should be.';
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return;
    start(async () => {
      const replaces = beside ? [] : here.map((c) => c.id);
      const check = { runId, section, place, way, ...offsets, replaces };
      const done = await keeping(['check', check], (stamp) => keepCheck(check, stamp));
      if (!done.ok) {
        setSaid(Object.values(done.fields)[0] ?? done.message);
        return;
      }
      setSaid(`Kept: section ${section}, ${place}.`);
      setTyped(NOTHING_TYPED);
      setBeside(false);
      if (place === 'first row') setPlace('last row');
    });
  };
  const move = (axis: 'across' | 'along', mm: number): void => setTyped((t) => withOffset(t, axis, mm, unit));
  const field = (name: CheckField, label: string) => (
    <div className="col-6">
      <FormLabel htmlFor={`check-${name}`}>{label}</FormLabel>
      <FormControl
        id={`check-${name}`}
        className="mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed[name]}
        aria-invalid={errors[name] !== undefined}
        aria-describedby={errors[name] ? `check-${name}-say` : undefined}
        onChange={(event) => setTyped(withTyped(typed, name, event.target.value))}
        onKeyDown={(event) => {
          // Up and down nudge what the field holds.
          const to = nudgedIn(name, event.key, event.shiftKey);
          if (!to) return;
          event.preventDefault();
          move(to.axis, to.mm);
        }}
      />
      {errors[name] && (
        <span className="field-error" id={`check-${name}-say`}>
          {errors[name]}
        </span>
      )}
    </div>
  );
  const nudgedIn = (name: CheckField, key: string, fine: boolean) => {
    if (key !== 'ArrowUp' && key !== 'ArrowDown') return null;
    const sideways = key === 'ArrowUp' ? 'ArrowRight' : 'ArrowLeft';
    if (name === 'along') return nudged(now.offsets, key, fine, unit);
    return name === 'across' ? nudged(now.offsets, sideways, fine, unit) : null;
  };
  const turn = (axis: 'along' | 'across', plus: boolean, yes: string, no: string) => (
    <div className="col-6">
      <span className="form-label d-block" id={`turn-${axis}`}>
        The cut lies
      </span>
      <ButtonGroup aria-labelledby={`turn-${axis}`} className="w-100">
        {(
          [
            [no, false],
            [yes, true],
          ] as const
        ).map(([words, value]) => (
          <Button
            key={words}
            variant="plain"
            className="px-2"
            active={plus === value}
            aria-pressed={plus === value}
            onClick={() => setTyped(withWay(typed, axis, value))}
          >
            {words}
          </Button>
        ))}
      </ButtonGroup>
    </div>
  );
  const found = offsetsText(now.offsets, unit);
  return (
    <form
      className="panel"
      aria-label={`Check section ${section}`}
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <fieldset disabled={!ready} style={{ display: 'contents' }}>
        <h2>Check section {section}: where is the cut?</h2>
        {sections.length > 1 && (
          <div className="d-flex gap-2 align-items-center mb-2">
            <label htmlFor="check-section">Section</label>
            <FormSelect
              id="check-section"
              className="w-auto"
              value={section}
              onChange={(event) => {
                setSection(Number(event.target.value));
                setPlace(startAt(Number(event.target.value)));
              }}
            >
              {sections.map((s) => (
                <option key={s} value={s}>
                  {known.some((c) => c.section === s) ? s : `${s}, not checked`}
                </option>
              ))}
            </FormSelect>
          </div>
        )}
        <div className="row g-2">
          <div className="col-6">
            <FormLabel htmlFor="check-place">Where</FormLabel>
            <FormSelect
              id="check-place"
              value={place}
              onChange={(event) => setPlace(event.target.value as CheckPlace)}
            >
              <option>first row</option>
              <option>last row</option>
            </FormSelect>
          </div>
          <div className="col-6">
            <FormLabel htmlFor="check-way">Read by</FormLabel>
            <FormSelect
              id="check-way"
              value={way}
              onChange={(event) => setWay(event.target.value as CheckWay)}
            >
              <option value="comb">comb or loupe</option>
              <option value="gaps">gaps round it</option>
              <option value="ruler">ruler</option>
            </FormSelect>
          </div>
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
          {way === 'gaps' ? (
            <>
              {field('left', `Left gap, ${unit}`)}
              {field('rightGap', `Right gap, ${unit}`)}
              {field('near', `Near gap, ${unit}`)}
              {field('far', `Far gap, ${unit}`)}
            </>
          ) : (
            <>
              {field('along', `Along, ${unit}`)}
              {turn('along', typed.further, 'further', 'back')}
              {field('across', `Across, ${unit}`)}
              {turn('across', typed.right, 'right', 'left')}
            </>
          )}
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
