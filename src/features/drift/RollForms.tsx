'use client';

import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';
import { useState, useTransition } from 'react';

import { lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';

import { PendingButton } from '@/ui/PendingButton';

import { KeepRow } from '@/features/forms/KeepRow';
import { keeping, type ActionResult, type BrowserStamp, whyNotDone } from '@/features/forms/keeping';

import { feedIsTyped, keepTape, keepTwoMarks, startStrip } from './actions';

type Typed = Readonly<Record<string, string>>;

/** A small form of lengths: parsed, sent, and answered beside its button. */
function LengthForm({
  fields,
  initial,
  button,
  unit,
  send,
  done,
  children,
}: {
  fields: readonly {
    readonly name: string;
    readonly label: string;
    readonly hint?: string;
    readonly optional?: boolean;
  }[];
  initial: Typed;
  button: string;
  unit: LengthUnit;
  send: (
    values: Readonly<Record<string, number | null>>,
    stamp: BrowserStamp,
  ) => Promise<ActionResult<unknown>>;
  done: string;
  children?: React.ReactNode;
}) {
  const [typed, setTyped] = useState(initial);
  const [errors, setErrors] = useState<Typed>({});
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const submit = (): void => {
    const wrong: Record<string, string> = {};
    const values: Record<string, number | null> = {};
    for (const { name, optional } of fields) {
      const text = typed[name] ?? '';
      if (optional && text.trim() === '') {
        values[name] = null;
        continue;
      }
      const parsed = parseLength(text, unit);
      if (parsed.ok) values[name] = parsed.value;
      else wrong[name] = lengthRefusalText(parsed.refusal, unit);
    }
    setErrors(wrong);
    setSaid('');
    if (Object.keys(wrong).length > 0) return;
    start(async () => {
      const result = await keeping([button, values], (stamp) => send(values, stamp));
      if (!result || result.ok) {
        setSaid(done);
        setTyped(initial);
        return;
      }
      const own = Object.fromEntries(
        Object.entries(result.fields).filter(([k]) => fields.some((f) => f.name === k)),
      );
      setErrors(own);
      setSaid(Object.keys(own).length > 0 ? '' : whyNotDone(result));
    });
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      {children}
      <div className="row g-2">
        {fields.map(({ name, label, hint }) => (
          <div className="col-6" key={name}>
            <FormLabel htmlFor={`roll-${name}`}>
              {label}, {unit}
            </FormLabel>
            <FormControl
              id={`roll-${name}`}
              className="mono"
              inputMode="decimal"
              autoComplete="off"
              value={typed[name] ?? ''}
              aria-invalid={errors[name] !== undefined}
              onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
            />
            <span className={errors[name] ? 'field-error' : 'small-print'}>{errors[name] ?? hint ?? ''}</span>
          </div>
        ))}
      </div>
      <KeepRow words={button} pending={pending} said={said} />
    </form>
  );
}

/** A known distance by steel tape: the true length of the print itself. */
export function TapeForm({ setupId, unit }: { setupId: string; unit: LengthUnit }) {
  const [of, setOf] = useState<'print' | 'cut'>('print');
  return (
    <LengthForm
      unit={unit}
      initial={{ nominalMm: '', measuredMm: '' }}
      fields={[
        { name: 'nominalMm', label: 'Should be' },
        { name: 'measuredMm', label: 'Tape says' },
      ]}
      button="Keep it"
      done="Kept."
      send={(values, stamp) => keepTape({ setupId, of, uMm: 0.3, ...values } as never, stamp)}
    >
      <FormLabel htmlFor="roll-of">Measured on</FormLabel>
      <FormSelect
        id="roll-of"
        className="mb-2"
        value={of}
        onChange={(event) => setOf(event.target.value as 'print' | 'cut')}
      >
        <option value="print">the print</option>
        <option value="cut">a cut line</option>
      </FormSelect>
    </LengthForm>
  );
}

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
  const [typed, setTyped] = useState((now ?? 100).toFixed(2));
  const keep = async (feedPercent: number): Promise<string | undefined> => {
    const done = await keeping(['feed', setupId, feedPercent], (stamp) =>
      feedIsTyped({ setupId, feedPercent } as never, stamp),
    );
    return done.ok ? undefined : whyNotDone(done);
  };
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
        <PendingButton words={`I have typed ${next.toFixed(2)} %`} onPress={() => keep(next)} />
      </>
    );
  return (
    <div className="d-flex gap-2 align-items-end flex-wrap mt-2">
      <div>
        <FormLabel htmlFor="roll-feed">Printer’s feed now, %</FormLabel>
        <FormControl
          id="roll-feed"
          className="mono"
          inputMode="decimal"
          autoComplete="off"
          style={{ width: '8rem' }}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
      </div>
      <PendingButton
        words={now === null ? 'Note it' : 'It was changed'}
        onPress={() => keep(typed.trim() === '' ? Number.NaN : Number(typed.replace(',', '.')))}
      />
    </div>
  );
}

/** First and last mark of a long piece: how far the cut is off at each. */
export function TwoMarksForm({ setupId, unit }: { setupId: string; unit: LengthUnit }) {
  return (
    <LengthForm
      unit={unit}
      initial={{ lengthMm: '', firstDyMm: '', lastDyMm: '', firstDxMm: '', lastDxMm: '' }}
      fields={[
        { name: 'lengthMm', label: 'Between them' },
        { name: 'firstDyMm', label: 'First, along', hint: '+ further, − back' },
        { name: 'lastDyMm', label: 'Last, along', hint: '+ further, − back' },
        { name: 'firstDxMm', label: 'First, across', hint: '+ right, − left', optional: true },
        { name: 'lastDxMm', label: 'Last, across', hint: '+ right, − left', optional: true },
      ]}
      button="Keep both marks"
      done="Kept, and worked into the drift."
      send={({ lengthMm, firstDyMm, lastDyMm, firstDxMm, lastDxMm }, stamp) =>
        keepTwoMarks(
          {
            setupId,
            lengthMm,
            first: { dyMm: firstDyMm, dxMm: firstDxMm },
            last: { dyMm: lastDyMm, dxMm: lastDxMm },
          } as never,
          stamp,
        )
      }
    />
  );
}

/** A long strip with stations along both edges and the middle. */
export function StripForm({ setupId, unit }: { setupId: string; unit: LengthUnit }) {
  return (
    <LengthForm
      unit={unit}
      initial={unit === 'mm' ? { length: '5000', spacing: '500' } : { length: '200', spacing: '20' }}
      fields={[
        { name: 'length', label: 'Strip', hint: 'from 1 to 30 m' },
        { name: 'spacing', label: 'A row every' },
      ]}
      button="Lay out the strip"
      done=""
      send={({ length, spacing }, stamp) =>
        startStrip({ setupId, length: length!, spacing: spacing! }, stamp)
      }
    />
  );
}
