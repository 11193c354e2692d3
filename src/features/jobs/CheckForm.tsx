'use client';

import { useState, useTransition } from 'react';

import { lengthRefusalText, offsetText, parseLength, type LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { keepCheck } from './actions';

type Way = 'comb' | 'gaps' | 'ruler';
type Place = 'first row' | 'last row';

/** A check that this screen shows. */
export interface KnownCheck {
  readonly id: string;
  readonly section: number;
  readonly place: Place;
  readonly by: string;
}

const EMPTY = { across: '', along: '', left: '', right: '', near: '', far: '' };

/** Reads where the cut landed at the first or the last row of a section. */
export function CheckForm({
  runId,
  sections,
  known,
  unit,
}: {
  runId: string;
  /** Sections that are cut, the newest first. */
  sections: readonly number[];
  /** What was read already, as far as this screen has seen. */
  known: readonly KnownCheck[];
  unit: LengthUnit;
}) {
  const [way, setWay] = useState<Way>('comb');
  const [section, setSection] = useState(sections[0]!);
  const startAt = (s: number): Place =>
    known.some((c) => c.section === s && c.place === 'first row') ? 'last row' : 'first row';
  const [place, setPlace] = useState<Place>(() => startAt(section));
  const [beside, setBeside] = useState(false);
  const [typed, setTyped] = useState(EMPTY);
  const [right, setRight] = useState(true);
  const [further, setFurther] = useState(true);
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();

  const here = known.filter((c) => c.section === section && c.place === place);

  const read = (name: keyof typeof EMPTY, wrong: Record<string, string>): number | null => {
    if (typed[name].trim() === '') return null;
    const parsed = parseLength(typed[name], unit);
    if (parsed.ok) return parsed.value;
    wrong[name] = lengthRefusalText(parsed.refusal, unit);
    return null;
  };
  const offsets = (wrong: Record<string, string>): { dxMm: number | null; dyMm: number | null } => {
    if (way !== 'gaps') {
      const across = read('across', wrong);
      const along = read('along', wrong);
      return {
        // Which way is said by the buttons; a sign that is typed presses them.
        dxMm: across === null ? null : (right ? 1 : -1) * Math.abs(across),
        dyMm: along === null ? null : (further ? 1 : -1) * Math.abs(along),
      };
    }
    const pair = (plus: keyof typeof EMPTY, minus: keyof typeof EMPTY): number | null => {
      const a = read(plus, wrong);
      const b = read(minus, wrong);
      return a === null || b === null ? null : (a - b) / 2;
    };
    return { dxMm: pair('right', 'left'), dyMm: pair('far', 'near') };
  };
  const keep = (): void => {
    const wrong: Record<string, string> = {};
    const offset = offsets(wrong);
    if (Object.keys(wrong).length === 0 && offset.dxMm === null && offset.dyMm === null)
      wrong[way === 'gaps' ? 'left' : 'along'] =
        'Enter at least one direction; 0 when the cut is where it should be.';
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return;
    start(async () => {
      const replaces = beside ? [] : here.map((c) => c.id);
      const done = await keepCheck({ runId, section, place, way, ...offset, replaces } as never);
      if (!done.ok) {
        setSaid(Object.values(done.fields)[0] ?? done.message);
        return;
      }
      setSaid(`Kept: section ${section}, ${place}.`);
      setTyped(EMPTY);
      setBeside(false);
      if (place === 'first row') setPlace('last row');
    });
  };
  const field = (name: keyof typeof EMPTY, label: string) => (
    <div className="col-6">
      <label className="form-label" htmlFor={`check-${name}`}>
        {label}
      </label>
      <input
        id={`check-${name}`}
        className="form-control mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed[name]}
        aria-invalid={errors[name] !== undefined}
        onChange={(event) => {
          setTyped({ ...typed, [name]: event.target.value });
          const sign = /^\s*([+\-\u2212])/.exec(event.target.value)?.[1];
          if (sign && name === 'along') setFurther(sign === '+');
          if (sign && name === 'across') setRight(sign === '+');
        }}
      />
      {errors[name] && <span className="field-error">{errors[name]}</span>}
    </div>
  );
  const turn = (
    name: 'along' | 'across',
    label: string,
    value: boolean,
    set: (v: boolean) => void,
    yes: string,
    no: string,
  ) => (
    <div className="col-6">
      <span className="form-label d-block" id={`turn-${yes.replaceAll(' ', '-')}`}>
        {label}
      </span>
      <div className="btn-group w-100" role="group" aria-labelledby={`turn-${yes.replaceAll(' ', '-')}`}>
        {[
          [no, false],
          [yes, true],
        ].map(([words, v]) => (
          <button
            key={String(v)}
            type="button"
            className={`btn btn-plain px-2 ${value === v ? 'active' : ''}`}
            aria-pressed={value === v}
            onClick={() => {
              set(v as boolean);
              // The button counts: a sign that says otherwise goes.
              setTyped({ ...typed, [name]: typed[name].replace(/^\s*[+\-\u2212]/, '') });
            }}
          >
            {words}
          </button>
        ))}
      </div>
    </div>
  );
  const now = offsets({});
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
            <select
              id="check-section"
              className="form-select w-auto"
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
            </select>
          </div>
        )}
        <div className="row g-2">
          <div className="col-6">
            <label className="form-label" htmlFor="check-place">
              Where
            </label>
            <select
              id="check-place"
              className="form-select"
              value={place}
              onChange={(event) => setPlace(event.target.value as Place)}
            >
              <option>first row</option>
              <option>last row</option>
            </select>
          </div>
          <div className="col-6">
            <label className="form-label" htmlFor="check-way">
              Read by
            </label>
            <select
              id="check-way"
              className="form-select"
              value={way}
              onChange={(event) => setWay(event.target.value as Way)}
            >
              <option value="comb">comb or loupe</option>
              <option value="gaps">gaps round an item</option>
              <option value="ruler">ruler</option>
            </select>
          </div>
          {way === 'gaps' ? (
            <>
              {field('left', `Left gap, ${unit}`)}
              {field('right', `Right gap, ${unit}`)}
              {field('near', `Near gap, ${unit}`)}
              {field('far', `Far gap, ${unit}`)}
              <p className="small-print mb-0">
                A gap counts where the cut lies outside the print. The cut is off by half their difference
                {now.dxMm !== null && `: ${offsetText(now.dxMm, 'across', unit)}`}
                {now.dyMm !== null &&
                  `${now.dxMm === null ? ':' : ','} ${offsetText(now.dyMm, 'along', unit)}`}
                .
              </p>
            </>
          ) : (
            <>
              {field('along', `Along, ${unit}`)}
              {turn('along', 'The cut lies', further, setFurther, 'further', 'back')}
              {field('across', `Across, ${unit}`)}
              {turn('across', 'The cut lies', right, setRight, 'right', 'left')}
              {(now.dxMm !== null || now.dyMm !== null) && (
                <p className="small-print mb-0">
                  The cut lies{' '}
                  {[
                    now.dyMm === null ? null : offsetText(now.dyMm, 'along', unit),
                    now.dxMm === null ? null : offsetText(now.dxMm, 'across', unit),
                  ]
                    .filter((words) => words !== null)
                    .join(' and ')}
                  .
                </p>
              )}
            </>
          )}
        </div>
        {here.length > 0 && (
          <label className="d-flex gap-2 align-items-center mt-2 mb-0" style={{ minHeight: 44 }}>
            <input
              type="checkbox"
              className="form-check-input m-0 flex-shrink-0"
              checked={beside}
              onChange={(event) => setBeside(event.target.checked)}
            />
            <span>
              read already by {here.map((c) => c.by).join(', ')}: tick to count both, else this replaces it
            </span>
          </label>
        )}
        <div className="d-flex gap-3 align-items-center mt-3 flex-wrap">
          <button type="submit" className="btn btn-plain" disabled={pending}>
            Keep this check
          </button>
          <span role="status">{said}</span>
        </div>
      </fieldset>
    </form>
  );
}
