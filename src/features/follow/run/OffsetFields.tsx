import { type CheckWay } from '@/core/setup';
import { ArrowDown, ArrowLeft, ArrowRight, ArrowUp } from 'lucide-react';
import ButtonGroup from 'react-bootstrap/ButtonGroup';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';

import { OFFSET_AXES, type LengthUnit, type OffsetAxis } from '@/core/units';

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
  toRight,
  toFar,
  unit,
  onType,
  onMove,
}: {
  way: CheckWay;
  typed: TypedCheck;
  errors: Readonly<Record<string, string>>;
  /** What the fields hold, as far as it can be read. */
  offsets: CheckOffsets;
  /** +1 where right of the sheet is on the operator’s right, and where further is away from them. */
  toRight: number;
  toFar: number;
  unit: LengthUnit;
  onType: (typed: TypedCheck) => void;
  onMove: (axis: OffsetAxis, mm: number) => void;
}) {
  const field = (name: CheckField, label: string) => (
    <div className="offset-figure">
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
  /** The sides in the order of the picture, none chosen before one is pressed. */
  const sides = (axis: OffsetAxis) => {
    const along = axis === 'along';
    const chosen = along ? typed.further : typed.right;
    const plusFirst = along ? toFar > 0 : toRight < 0;
    const [Plus, Minus] = along
      ? toFar > 0
        ? [ArrowUp, ArrowDown]
        : [ArrowDown, ArrowUp]
      : toRight > 0
        ? [ArrowRight, ArrowLeft]
        : [ArrowLeft, ArrowRight];
    const both = [
      [along ? 'further' : 'right', true, Plus],
      [along ? 'back' : 'left', false, Minus],
    ] as const;
    return (
      <ButtonGroup aria-label={`The cut lies, ${along ? 'along' : 'across'}`} className="offset-sides">
        {(plusFirst ? both : both.toReversed()).map(([words, value, Arrow]) => (
          <Button
            key={words}
            variant="plain"
            className="px-2"
            active={chosen === value}
            aria-pressed={chosen === value}
            onClick={() => onType(withWay(typed, axis, value))}
          >
            <Arrow size={18} aria-hidden /> {words}
          </Button>
        ))}
      </ButtonGroup>
    );
  };
  return way === 'gaps' ? (
    <div className="offset-gaps">
      {field('left', `Left gap, ${unit}`)}
      {field('rightGap', `Right gap, ${unit}`)}
      {field('near', `Near gap, ${unit}`)}
      {field('far', `Far gap, ${unit}`)}
    </div>
  ) : (
    <>
      {OFFSET_AXES.map((axis) => (
        <div key={axis} className="offset-axis">
          {sides(axis)}
          {field(axis, `${axis === 'along' ? 'Along' : 'Across'}, ${unit}`)}
        </div>
      ))}
    </>
  );
}
