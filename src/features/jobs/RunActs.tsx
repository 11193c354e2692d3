'use client';

import { useState, useTransition } from 'react';

import { lengthRefusalText, parseLength, type LengthUnit } from '@/core/units';
import { PendingButton } from '@/ui/PendingButton';

import { keeping, type ActionResult, type BrowserStamp } from '../keeping';

import {
  closeTheRun,
  laminated,
  makeFile,
  openTheRunAgain,
  registeredAnew,
  restOrGoOn,
  sectionIsCut,
  sectionIsFinished,
  sectionIsNotCut,
  slipIsKept,
  stepIsUndone,
  takeCheckBack,
} from './actions';

/** Does it, and resolves with what went wrong. `what` names it with all that it keeps. */
const saying = async (
  what: readonly unknown[],
  act: (stamp: BrowserStamp) => Promise<ActionResult<unknown>>,
  version?: number,
): Promise<string | undefined> => {
  const done = await keeping(what, act, version);
  return done?.ok === false ? (Object.values(done.fields)[0] ?? done.message) : undefined;
};

type CutFormat = 'svg' | 'dxf' | 'hpgl';
const CUT_FORMATS: readonly CutFormat[] = ['svg', 'dxf', 'hpgl'];

interface MadeFile {
  readonly id: string;
  readonly fileName: string;
}

/** Makes a section's file and hands it to the browser. */
function FileButton({
  runId,
  section,
  format,
  onMade,
}: {
  runId: string;
  section: number;
  format: CutFormat;
  onMade: (file: MadeFile) => void;
}) {
  const press = async (): Promise<string | undefined> => {
    const given = { runId, section, format };
    const made = await keeping(['file', given], (stamp) => makeFile(given, stamp));
    if (!made.ok) return made.message;
    const url = URL.createObjectURL(new Blob([made.value.content], { type: 'application/octet-stream' }));
    const link = document.createElement('a');
    link.href = url;
    link.download = made.value.fileName;
    link.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
    onMade({ id: made.value.fileId, fileName: made.value.fileName });
    return undefined;
  };
  return <PendingButton words={format.toUpperCase()} onPress={press} />;
}

/** The files of a section, and “it is cut”: with the one that was loaded, of several the chosen one, or as drawn. */
export function SectionFiles({
  runId,
  section,
  files,
  main,
}: {
  runId: string;
  section: number;
  /** What was made for it, newest first. */
  files: readonly MadeFile[];
  main: boolean;
}) {
  // Made from here a moment ago: the page hears of it later.
  const [own, setOwn] = useState<readonly MadeFile[]>([]);
  const all = [...own.filter((o) => !files.some((f) => f.id === o.id)), ...files];
  const [chosen, setChosen] = useState<string | null>(null);
  const fileId = all.find((f) => f.id === chosen)?.id ?? all[0]?.id ?? null;
  const say = (id: string | null) =>
    saying(['cut', runId, section, id], (stamp) => sectionIsCut(runId, { section, fileId: id }, stamp));
  return (
    <div className="stack" style={{ gap: 8 }}>
      <div className="d-flex flex-wrap gap-2 mb-1">
        {CUT_FORMATS.map((f) => (
          <FileButton
            key={f}
            runId={runId}
            section={section}
            format={f}
            onMade={(file) => setOwn((list) => [file, ...list])}
          />
        ))}
      </div>
      {all.length === 1 && <p className="small-print mono text-break mb-0">{all[0]!.fileName}</p>}
      {all.length > 1 && (
        <div>
          <label className="form-label" htmlFor="loaded-file">
            The file that was loaded
          </label>
          <select
            id="loaded-file"
            className="form-select mono"
            value={fileId ?? ''}
            onChange={(event) => setChosen(event.target.value)}
          >
            {all.map((f) => (
              <option key={f.id} value={f.id}>
                {f.fileName}
              </option>
            ))}
          </select>
        </div>
      )}
      <PendingButton
        words={`Section ${section} is cut with its file`}
        main={main}
        wide
        onPress={() =>
          fileId === null
            ? Promise.resolve(
                `No corrected file of section ${section} was made yet. Make it, cut with it, then say so.`,
              )
            : say(fileId)
        }
      />
      <PendingButton words={`Section ${section} is cut, as drawn`} wide onPress={() => say(null)} />
    </div>
  );
}

export const NotCutButton = ({ runId, section }: { runId: string; section: number }) => (
  <PendingButton
    words={`Undo: section ${section} is not cut`}
    onPress={() => saying(['not cut', runId, section], (stamp) => sectionIsNotCut(runId, section, stamp))}
  />
);

export const RegisterButton = ({ runId, before, main }: { runId: string; before: number; main: boolean }) => (
  <PendingButton
    words={`Registered anew before section ${before}`}
    main={main}
    wide
    onPress={() => saying(['register', runId, before], (stamp) => registeredAnew(runId, before, stamp))}
  />
);

const UNDO_WORDS = {
  registered: 'it was not registered anew',
  'slip-kept': 'the slip is not kept',
  laminated: 'it was not laminated',
} as const;

/** Takes the newest registration, kept slip or laminate back. */
export const UndoButton = ({
  runId,
  event,
}: {
  runId: string;
  event: { readonly id: string; readonly kind: keyof typeof UNDO_WORDS; readonly section: number | null };
}) => (
  <PendingButton
    words={`Undo: ${UNDO_WORDS[event.kind]}${event.section === null ? '' : `, section ${event.section}`}`}
    onPress={() => saying(['undo', event.id], (stamp) => stepIsUndone(runId, event.id, stamp))}
  />
);

export const KeepSlipButton = ({
  runId,
  slip,
}: {
  runId: string;
  slip: {
    readonly axis: 'along' | 'across';
    readonly sizeMm: number;
    readonly after: { readonly section: number; readonly place: 'first row' | 'last row' };
  };
}) => (
  <PendingButton
    words="Keep it: the files make up for it"
    wide
    onPress={() =>
      saying(['slip', runId, slip], (stamp) =>
        slipIsKept(runId, { axis: slip.axis, ...slip.after, sizeMm: slip.sizeMm }, stamp),
      )
    }
  />
);

export const RestButton = ({ runId, rest }: { runId: string; rest: boolean }) => (
  <PendingButton
    words={rest ? 'Rest until another day' : 'Go on with the run'}
    main={!rest}
    onPress={() => saying(['rest', runId, rest], (stamp) => restOrGoOn(runId, rest, stamp))}
  />
);

export const TakeBackButton = ({ runId, checkId }: { runId: string; checkId: string }) => (
  <PendingButton
    words="Take back"
    onPress={() => saying(['take back', checkId], (stamp) => takeCheckBack(runId, checkId, stamp))}
  />
);

export const ReopenButton = ({ runId }: { runId: string }) => (
  <PendingButton
    words="Open it again"
    onPress={() => saying(['open again', runId], (stamp) => openTheRunAgain(runId, stamp))}
  />
);

/** Cut off and weeded: how many were spoiled. */
export function FinishForm({
  runId,
  section,
  copies,
  counted,
}: {
  runId: string;
  section: number;
  copies: number;
  /** As it was counted before; null at first. */
  counted: number | null;
}) {
  const [spoiled, setSpoiled] = useState(String(counted ?? 0));
  const [open, setOpen] = useState(counted === null);
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  if (!open)
    return (
      <span className="d-inline-flex gap-2 align-items-center">
        <span className="mono">{counted}</span>
        <button
          type="button"
          className="btn btn-link p-1"
          aria-label={`Count section ${section} again`}
          onClick={() => setOpen(true)}
        >
          change
        </button>
      </span>
    );
  return (
    <form
      className="d-flex gap-2 align-items-center"
      onSubmit={(event) => {
        event.preventDefault();
        const count = Number(spoiled.trim() === '' ? 'x' : spoiled);
        if (!Number.isInteger(count) || count < 0 || count > copies) {
          setSaid(`A whole number from 0 to ${copies}.`);
          return;
        }
        start(async () => {
          const wrong = await saying(['weeded', runId, section, count], (stamp) =>
            sectionIsFinished(runId, { section, spoiled: count }, stamp),
          );
          setSaid(wrong ?? '');
          if (wrong === undefined) setOpen(false);
        });
      }}
    >
      <input
        className="form-control mono"
        style={{ width: '3.6rem' }}
        inputMode="numeric"
        aria-label={`Spoiled in section ${section}`}
        value={spoiled}
        onChange={(event) => setSpoiled(event.target.value)}
      />
      <button type="submit" className="btn btn-plain" disabled={pending}>
        Weeded
      </button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}

/** Two lengths in the user's unit; a refusal is said by its field. */
function useLengths(unit: LengthUnit, initial: Readonly<Record<string, string>>) {
  const [typed, setTyped] = useState(initial);
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const read = (): Record<string, number> | null => {
    const wrong: Record<string, string> = {};
    const values: Record<string, number> = {};
    for (const [name, text] of Object.entries(typed)) {
      const parsed = parseLength(text, unit);
      if (parsed.ok) values[name] = parsed.value;
      else wrong[name] = lengthRefusalText(parsed.refusal, unit);
    }
    setErrors(wrong);
    return Object.keys(wrong).length > 0 ? null : values;
  };
  const field = (name: string, label: string) => (
    <div className="col-6">
      <label className="form-label" htmlFor={`length-${name}`}>
        {label}, {unit}
      </label>
      <input
        id={`length-${name}`}
        className="form-control mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed[name]}
        aria-invalid={errors[name] !== undefined}
        onChange={(event) => setTyped({ ...typed, [name]: event.target.value })}
      />
      {errors[name] && <span className="field-error">{errors[name]}</span>}
    </div>
  );
  return { read, field, setErrors };
}

/** Mark spacing measured again after laminating. */
export function LaminateForm({
  runId,
  from,
  nominal,
  bothEnds,
  unit,
}: {
  runId: string;
  from: number;
  nominal: string;
  bothEnds: boolean;
  unit: LengthUnit;
}) {
  const { read, field, setErrors } = useLengths(unit, { nominalMm: nominal, measuredMm: '' });
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      aria-label="After laminating"
      onSubmit={(event) => {
        event.preventDefault();
        const values = read();
        if (!values) return;
        start(async () => {
          const done = await keeping(['laminate', runId, from, values], (stamp) =>
            laminated({ runId, from, ...values } as never, stamp),
          );
          if (!done.ok) {
            setErrors(done.fields);
            setSaid(Object.keys(done.fields).length > 0 ? '' : done.message);
          } else {
            const share = values.measuredMm! / values.nominalMm! - 1;
            setSaid(
              `${Math.abs(1000 * share).toFixed(2)} mm per m ${share >= 0 ? 'longer' : 'shorter'}: put into the cut from section ${from} on.`,
            );
          }
        });
      }}
    >
      <p className="small-print">
        Measure the distance between the marks again, from section {from} on.{' '}
        {bothEnds && 'This rig reads marks at both ends and stretches the cut by itself: it is only noted.'}
      </p>
      <div className="row g-2">
        {field('nominalMm', 'As printed')}
        {field('measuredMm', 'After laminating')}
      </div>
      <div className="d-flex gap-3 align-items-center mt-2 flex-wrap">
        <button type="submit" className="btn btn-plain" disabled={pending}>
          Put it into the cut
        </button>
        <span role="status">{said}</span>
      </div>
    </form>
  );
}

/** Closes the run with a word and what an item costs. */
export function CloseForm({ runId, version, main }: { runId: string; version: number; main: boolean }) {
  const [note, setNote] = useState('');
  const [cost, setCost] = useState('');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  return (
    <form
      aria-label="Close the run"
      onSubmit={(event) => {
        event.preventDefault();
        const costPerItem = cost.trim() === '' ? null : Number(cost.replace(',', '.'));
        if (costPerItem !== null && !Number.isFinite(costPerItem)) {
          setSaid('The cost of an item is a number, for example 0.80; or leave it empty.');
          return;
        }
        start(async () => {
          const input = { runId, note, costPerItem };
          const wrong = await saying(['close', input], (stamp) => closeTheRun(input, stamp), version);
          setSaid(wrong ?? '');
        });
      }}
    >
      <div className="row g-2">
        <div className="col-8">
          <label className="form-label" htmlFor="close-note">
            A word for the log
          </label>
          <input
            id="close-note"
            className="form-control"
            value={note}
            maxLength={400}
            onChange={(event) => setNote(event.target.value)}
          />
        </div>
        <div className="col-4">
          <label className="form-label" htmlFor="close-cost">
            An item costs
          </label>
          <input
            id="close-cost"
            className="form-control mono"
            inputMode="decimal"
            value={cost}
            onChange={(event) => setCost(event.target.value)}
          />
        </div>
      </div>
      <button
        type="submit"
        className={`btn mt-2 w-100 ${main ? 'btn-main' : 'btn-plain'}`}
        disabled={pending}
      >
        Close the run
      </button>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}
