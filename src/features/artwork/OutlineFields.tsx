import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import FormCheck from 'react-bootstrap/FormCheck';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { Background, CutLine, InnerLine, Join } from '@/core/artwork';
import { fieldLength, fixed, parseLength, type LengthUnit } from '@/core/units';

import { Fold } from '@/ui/Fold';
import type { OutlineErrors, OutlineForm } from './outline.view';

type Change = (change: Partial<OutlineForm>) => void;

const JOIN_WORDS: Readonly<Record<Join, string>> = {
  round: 'round',
  mitre: 'pointed',
  square: 'flattened',
};
const BACKGROUND_WORDS: Readonly<Record<'auto' | Background, string>> = {
  auto: 'found by itself',
  alpha: 'what is transparent',
  brightness: 'as light or dark as the border',
  colour: 'the colour of the border',
};
/** Where the slider stands while the threshold is found by itself. */
const TENTH = 0.05;

/** Every step from picture to cut line; what is changed early changes what follows. */
export function OutlineFields({
  form,
  was,
  errors,
  line,
  largest,
  stock,
  unit,
  onStock,
  onChange,
  bare,
  children,
}: {
  form: OutlineForm;
  /** As it was kept; null for artwork that is new. */
  was: OutlineForm | null;
  errors: OutlineErrors;
  line: CutLine | null;
  /** The size with which it is as large as the sheet takes; null where nothing tells. */
  largest: string | null;
  stock: string;
  unit: LengthUnit;
  onStock: (colour: string) => void;
  onChange: Change;
  /** Nothing is traced: only what is made of it is shown. */
  bare: boolean;
  /** What is made of the line. */
  children?: ReactNode;
}) {
  const text = (field: 'size' | 'border' | 'close' | 'leastArea', label: string, of: string) => (
    <div className="col-6" key={field}>
      <FormLabel htmlFor={`outline-${field}`}>
        {label}, {of}
      </FormLabel>
      <FormControl
        id={`outline-${field}`}
        className="mono"
        autoComplete="off"
        value={form[field]}
        aria-invalid={errors[field] !== undefined}
        aria-describedby={errors[field] ? `outline-${field}-say` : undefined}
        onChange={(event) => onChange({ [field]: event.target.value })}
      />
      {errors[field] && (
        <span id={`outline-${field}-say`} className="field-error">
          {errors[field]}
        </span>
      )}
    </div>
  );
  return (
    <div className="stack side">
      {!bare && (
        <section className="panel">
          <div className="row g-2">
            <div className="col-6">
              <FormLabel htmlFor="outline-by">Set by</FormLabel>
              <FormSelect
                id="outline-by"
                value={form.by}
                onChange={(event) =>
                  onChange({ by: event.target.value === 'height' ? 'height' : 'width', size: '' })
                }
              >
                <option value="width">width</option>
                <option value="height">height</option>
              </FormSelect>
            </div>
            {text('size', form.by === 'width' ? 'Picture’s width' : 'Picture’s height', unit)}
          </div>
          {largest !== null && largest !== form.size && (
            <Button variant="plain" className="btn-small mt-2" onClick={() => onChange({ size: largest })}>
              As large as the sheet takes: {largest} {unit}
            </Button>
          )}
          {was && <ScaledBorder {...{ form, was, unit, onChange }} />}
          <div className="row g-2 mt-1">
            {text('border', 'Border', unit)}
            <div className="col-6">
              <FormLabel htmlFor="outline-join">Corners</FormLabel>
              <FormSelect
                id="outline-join"
                value={form.join}
                onChange={(event) => onChange({ join: event.target.value as Join })}
              >
                {Object.entries(JOIN_WORDS).map(([join, words]) => (
                  <option key={join} value={join}>
                    {words}
                  </option>
                ))}
              </FormSelect>
            </div>
          </div>
        </section>
      )}
      {children}
      {!bare && (
        <div>
          <Fold
            name="outline-finer"
            words="Gaps and bits"
            usual={`under ${form.close} ${unit}, ${form.leastArea} mm²: left out`}
            open={errors.close !== undefined || errors.leastArea !== undefined}
          >
            <div className="row g-2">
              {text('close', 'Fill gaps narrower than', unit)}
              {text('leastArea', 'Ignore bits smaller than', 'mm²')}
            </div>
            <FormCheck
              id="outline-apart"
              className="mt-2"
              label="never let borders merge"
              checked={form.apart}
              onChange={(event) => onChange({ apart: event.target.checked })}
            />
            <p className="small-print mt-2 mb-0">
              Inlets and spurs narrower than the one, and bits smaller than the other, are left out of the
              line.
            </p>
          </Fold>
          <BackgroundFields {...{ form, line, stock, onStock, onChange }} />
          {line && line.inner.length > 0 && <Inner inner={line.inner} form={form} onChange={onChange} />}
        </div>
      )}
    </div>
  );
}

/** What is taken for background, and what it is shown on. */
function BackgroundFields({
  form,
  line,
  stock,
  onStock,
  onChange,
}: {
  form: OutlineForm;
  line: CutLine | null;
  stock: string;
  onStock: (colour: string) => void;
  onChange: Change;
}) {
  return (
    <Fold name="outline-background" words="Background" usual={BACKGROUND_WORDS[form.background]}>
      <FormLabel htmlFor="outline-background">Background is</FormLabel>
      <FormSelect
        id="outline-background"
        value={form.background}
        onChange={(event) =>
          onChange({ background: event.target.value as OutlineForm['background'], threshold: '' })
        }
      >
        {Object.entries(BACKGROUND_WORDS).map(([background, words]) => (
          <option key={background} value={background}>
            {words}
          </option>
        ))}
      </FormSelect>
      <FormLabel htmlFor="outline-threshold" className="mt-2">
        Threshold{' '}
        {form.threshold === '' ? `(${line ? fixed(line.trace.threshold, 2) : '…'}, found)` : form.threshold}
      </FormLabel>
      <input
        id="outline-threshold"
        type="range"
        className="form-range"
        min={TENTH}
        max={1 - TENTH}
        step={0.01}
        value={form.threshold === '' ? (line?.trace.threshold ?? 0.5) : form.threshold}
        onChange={(event) => onChange({ threshold: event.target.value })}
      />
      {form.threshold !== '' && (
        <Button variant="plain" onClick={() => onChange({ threshold: '' })}>
          Find it again
        </Button>
      )}
      <FormLabel htmlFor="outline-stock" className="mt-2">
        Colour of the stock
      </FormLabel>
      <FormControl
        id="outline-stock"
        type="color"
        value={stock}
        onChange={(event) => onStock(event.target.value)}
      />
    </Fold>
  );
}

/** An inner line whose nearest point moved by less is the same one. */
const SAME_MM = 1;
/** So many inner lines are listed; small ones go by area. */
const MOST_LISTED = 12;

/** A size that was changed leaves the border as wide as it was, unless somebody wants it to grow along. */
function ScaledBorder({
  form,
  was,
  unit,
  onChange,
}: {
  form: OutlineForm;
  was: OutlineForm;
  unit: LengthUnit;
  onChange: Change;
}) {
  const [size, before, border] = [form.size, was.size, form.border].map((t) => parseLength(t, unit));
  if (!size?.ok || !before?.ok || !border?.ok || form.by !== was.by || form.border !== was.border)
    return null;
  const along = fieldLength((border.value * size.value) / before.value, unit);
  if (along === form.border) return null;
  return (
    <p className="small-print mt-2 mb-0">
      The border stays {form.border} {unit} wide.{' '}
      <Button variant="link" className="p-0 align-baseline" onClick={() => onChange({ border: along })}>
        Scale it too: {along} {unit}
      </Button>
    </p>
  );
}

const insideWords = (inner: readonly InnerLine[]): string => {
  const holes = inner.filter((i) => i.kind === 'hole').length;
  const islands = inner.length - holes;
  const many = (n: number, one: string): string[] => (n === 0 ? [] : [`${n} ${one}${n === 1 ? '' : 's'}`]);
  return [...many(holes, 'hole'), ...many(islands, 'island')].join(', ');
};

function Inner({
  inner,
  form,
  onChange,
}: {
  inner: readonly InnerLine[];
  form: OutlineForm;
  onChange: Change;
}) {
  return (
    <Fold name="outline-inside" words="Inside" usual={insideWords(inner)}>
      <p className="small-print">A true hole is cut out. White that only looks like one is not: untick it.</p>
      {inner.slice(0, MOST_LISTED).map((line, i) => {
        // As it was pressed, not as it was traced last.
        const others = form.ignore.filter((p) => Math.hypot(p.x - line.at.x, p.y - line.at.y) >= SAME_MM);
        const ignored = others.length < form.ignore.length;
        return (
          <FormCheck
            key={`${line.at.x} ${line.at.y}`}
            id={`inner-${i}`}
            label={`${line.kind === 'hole' ? 'hole' : 'island'} of ${fixed(line.areaMm2, line.areaMm2 < 10 ? 1 : 0)} mm²`}
            checked={!ignored}
            onChange={() => onChange({ ignore: ignored ? others : [...form.ignore, line.at] })}
          />
        );
      })}
      {inner.length > MOST_LISTED && (
        <p className="small-print mb-0">
          {inner.length - MOST_LISTED} smaller ones: drop them by their area above.
        </p>
      )}
    </Fold>
  );
}
