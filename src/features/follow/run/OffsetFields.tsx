import { type CheckWay } from '@/core/setup';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import type { LengthUnit, OffsetAxis } from '@/core/units';

import {
  nudged,
  withTyped,
  withWay,
  type CheckField,
  type CheckOffsets,
  type TypedCheck,
} from './checkReading';

/** What was read, as text: two offsets with their directions, or four gaps. */
export function OffsetFields({
  way,
  typed,
  errors,
  offsets,
  unit,
  onType,
  onMove,
}: {
  way: CheckWay;
  typed: TypedCheck;
  errors: Readonly<Record<string, string>>;
  /** What the fields hold, as far as it can be read. */
  offsets: CheckOffsets;
  unit: LengthUnit;
  onType: (typed: TypedCheck) => void;
  onMove: (axis: OffsetAxis, mm: number) => void;
}) {
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
        onChange={(event) => onType(withTyped(typed, name, event.target.value))}
        onKeyDown={(event) => {
          // Up and down nudge what the field holds.
          const to = nudgedIn(name, event.key, event.shiftKey);
          if (!to) return;
          event.preventDefault();
          onMove(to.axis, to.mm);
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
    if (name === 'along') return nudged(offsets, key, fine, unit);
    return name === 'across' ? nudged(offsets, sideways, fine, unit) : null;
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
            onClick={() => onType(withWay(typed, axis, value))}
          >
            {words}
          </Button>
        ))}
      </ButtonGroup>
    </div>
  );
  return way === 'gaps' ? (
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
  );
}
