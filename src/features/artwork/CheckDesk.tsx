'use client';

import { useRef, useState } from 'react';
import Badge from 'react-bootstrap/Badge';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { Finding } from '@/core/artwork/checks';
import type { Rect } from '@/core/geometry';
import { fieldLength, lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';
import type { SetupCheck } from '@/server/setups/checkContext';
import { useHydrated } from '@/ui/useHydrated';
import { FORMAT_WORDS } from '@/core/drawing/formats';

import { checkAnswer, FINDING_WORDS, whereWords } from './check.view';
import { CheckPicture } from './CheckPicture';

type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'checking' }
  | { readonly kind: 'refused'; readonly message: string }
  | { readonly kind: 'checked'; readonly findings: readonly Finding[]; readonly withPrint: boolean };

const NO_ANSWER = 'The server did not answer. Nothing is lost: try again in a moment.';

async function ask(cut: File, print: File | null, context: object): Promise<readonly Finding[] | string> {
  const form = new FormData();
  form.set('cut', cut);
  if (print) form.set('print', print);
  form.set('context', JSON.stringify(context));
  try {
    const answer = await fetch('/api/check', { method: 'POST', body: form });
    const body = (await answer.json()) as { findings?: Finding[]; error?: { message: string } };
    return body.findings ?? body.error?.message ?? NO_ANSWER;
  } catch {
    return NO_ANSWER;
  }
}

/** Choose what it is for, give the cut file and its print, and see what would go wrong. */
export function CheckDesk({
  setups,
  first,
  unit,
}: {
  setups: readonly SetupCheck[];
  first: string | null;
  unit: LengthUnit;
}) {
  const ready = useHydrated();
  const [id, setId] = useState(() => (setups.find((s) => s.id === first) ?? setups[0]!).id);
  const setup = setups.find((s) => s.id === id)!;
  const [needed, setNeeded] = useState(() => neededText(setup, unit));
  const [cut, setCut] = useState<File | null>(null);
  const [print, setPrint] = useState<File | null>(null);
  const [state, setState] = useState<State>({ kind: 'idle' });
  const turn = useRef(0);
  const read = needed.trim() === '' ? null : parseLength(needed, unit);

  const check = async (): Promise<void> => {
    if (!cut || read?.ok === false) return;
    const mine = (turn.current += 1);
    setState({ kind: 'checking' });
    const context = { ...setup.context, map: setup.map, neededMm: read?.value ?? null };
    const found = await ask(cut, print, context);
    if (mine !== turn.current) return;
    setState(
      typeof found === 'string'
        ? { kind: 'refused', message: found }
        : { kind: 'checked', findings: found, withPrint: print !== null },
    );
  };
  const changed = (): void => {
    turn.current += 1;
    setState({ kind: 'idle' });
  };
  const answer =
    state.kind === 'checked'
      ? checkAnswer(state.findings, state.withPrint)
      : state.kind === 'refused'
        ? state.message
        : state.kind === 'checking'
          ? 'Looking …'
          : 'Give the cut file and its print: finds faults before you print.';
  const sheet = { x0: 0, y0: 0, x1: setup.context.media.widthMm, y1: setup.context.media.heightMm };
  return (
    <>
      <h1 className="answer" aria-live="polite">
        {answer}
      </h1>
      <div className="two work-first">
        <form
          className="panel stack"
          noValidate
          onSubmit={(event) => {
            event.preventDefault();
            void check();
          }}
        >
          <div>
            <FormLabel htmlFor="check-setup">For</FormLabel>
            <FormSelect
              id="check-setup"
              value={id}
              disabled={!ready}
              onChange={(event) => {
                setId(event.target.value);
                setNeeded(
                  neededText(
                    setups.find((s) => s.id === event.target.value)!,
                    unit,
                  ),
                );
                changed();
              }}
            >
              {setups.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </FormSelect>
          </div>
          <FileField
            id="check-cut"
            label={`Cut file: ${FORMAT_WORDS}`}
            ready={ready}
            onFile={(f) => (setCut(f), changed())}
          />
          <FileField
            id="check-print"
            label="Its print: PDF, SVG or a picture of the whole sheet"
            ready={ready}
            onFile={(f) => (setPrint(f), changed())}
          />
          <div>
            <FormLabel htmlFor="check-needed">Allowed miss, {unit}</FormLabel>
            <FormControl
              id="check-needed"
              className="mono"
              inputMode="decimal"
              autoComplete="off"
              disabled={!ready}
              value={needed}
              aria-invalid={read?.ok === false}
              aria-describedby="check-needed-say"
              onChange={(event) => {
                setNeeded(event.target.value);
                changed();
              }}
            />
            <span id="check-needed-say" className={read?.ok === false ? 'field-error' : 'small-print'}>
              {read?.ok === false
                ? lengthRefusalText(read.refusal, unit)
                : 'Bleed and border have to be more than this. From what 95 of 100 cuts of this setup stay within; empty leaves it out.'}
            </span>
          </div>
          <div>
            <Button
              type="submit"
              variant="main"
              disabled={!ready || !cut || state.kind === 'checking' || read?.ok === false}
            >
              Check them
            </Button>
          </div>
        </form>
        {state.kind === 'checked' && state.findings.length > 0 && (
          <div className="stack side">
            <CheckPicture context={setup.context} findings={state.findings} />
            <Findings findings={state.findings} sheet={sheet} unit={unit} />
          </div>
        )}
      </div>
    </>
  );
}

const neededText = ({ context: { neededMm } }: SetupCheck, unit: LengthUnit): string =>
  neededMm === null ? '' : fieldLength(Math.ceil(neededMm * 20) / 20, unit);

/** Each finding with where it is and what to do. */
function Findings({
  findings,
  sheet,
  unit,
}: {
  findings: readonly Finding[];
  sheet: Rect;
  unit: LengthUnit;
}) {
  return (
    <ol className="list-unstyled stack mb-0">
      {findings.map((f, i) => (
        <li key={i} className="panel">
          <p className="mb-1">
            <strong>
              {i + 1}. {FINDING_WORDS[f.code]}
            </strong>{' '}
            <Badge bg="none" className={f.severity === 'stop' ? 'tag tag-do' : 'tag tag-leaning'}>
              {f.severity === 'stop' ? 'spoils it' : 'look'}
            </Badge>
          </p>
          <p className="mb-1">
            {f.message} {f.fix}
          </p>
          {f.where && <p className="small-print mb-0">{whereWords(f.where, sheet, unit)}</p>}
        </li>
      ))}
    </ol>
  );
}

function FileField({
  id,
  label,
  ready,
  onFile,
}: {
  id: string;
  label: string;
  ready: boolean;
  onFile: (file: File | null) => void;
}) {
  return (
    <div>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      <FormControl
        id={id}
        type="file"
        disabled={!ready}
        onChange={(event) => onFile((event.target as HTMLInputElement).files?.[0] ?? null)}
      />
    </div>
  );
}
