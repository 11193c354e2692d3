import { CHECK_PLACES, type CheckPlace, type CheckWay } from '@/core/setup';
import Button from 'react-bootstrap/Button';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import FormCheckInput from 'react-bootstrap/FormCheckInput';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import type { ReactNode } from 'react';

import { Fold } from '@/ui/Fold';

import type { KnownCheck } from './CheckForm';

const WAY_WORDS: Readonly<Record<CheckWay, string>> = {
  comb: 'Read by comb or loupe',
  gaps: 'Read by gaps',
  ruler: 'Read by ruler',
};

/** The row was read before: both count, or this one replaces it. */
export function Beside({
  by,
  both,
  onBoth,
}: {
  by: readonly string[];
  both: boolean;
  onBoth: (both: boolean) => void;
}) {
  return (
    <label className="d-flex gap-2 align-items-center mb-0" style={{ minHeight: 44 }}>
      <FormCheckInput
        type="checkbox"
        className="m-0 flex-shrink-0"
        checked={both}
        onChange={(event) => onBoth(event.target.checked)}
      />
      <span>
        {by.join(', ')} {by.length === 1 ? 'has' : 'have'} read this: keep both (otherwise replaced)
      </span>
    </label>
  );
}

/** How it is read, and of which section. */
export function AnotherWay({
  way,
  onWay,
  many,
  children,
}: {
  way: CheckWay;
  onWay: (way: CheckWay) => void;
  /** There are several sections to choose from. */
  many: boolean;
  children: ReactNode;
}) {
  return (
    <Fold
      name="check-way"
      words={WAY_WORDS[way]}
      usual={many ? 'or another way, another section' : 'or another way'}
    >
      <div className="row g-2">
        <div className="col-6">
          <FormLabel htmlFor="check-way">Read by</FormLabel>
          <FormSelect id="check-way" value={way} onChange={(event) => onWay(event.target.value as CheckWay)}>
            <option value="comb">comb or loupe</option>
            <option value="gaps">gaps round it</option>
            <option value="ruler">ruler</option>
          </FormSelect>
        </div>
        {many && children}
      </div>
    </Fold>
  );
}

/** Which of the cut sections is read. */
export function SectionChoice({
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
    <div className="col-6">
      <FormLabel htmlFor="check-section">Section</FormLabel>
      <FormSelect id="check-section" value={value} onChange={(event) => onChoose(Number(event.target.value))}>
        {sections.map((s) => (
          <option key={s} value={s}>
            {known.some((c) => c.section === s) ? s : `${s}, not checked`}
          </option>
        ))}
      </FormSelect>
    </div>
  );
}

/** Where on the section. */
export function Places({ place, onPlace }: { place: CheckPlace; onPlace: (place: CheckPlace) => void }) {
  return (
    <ButtonGroup aria-label="Where" className="w-100">
      {CHECK_PLACES.map((p) => (
        <Button
          key={p}
          variant="plain"
          active={p === place}
          aria-pressed={p === place}
          onClick={() => onPlace(p)}
        >
          {p.charAt(0).toUpperCase() + p.slice(1)}
        </Button>
      ))}
    </ButtonGroup>
  );
}
