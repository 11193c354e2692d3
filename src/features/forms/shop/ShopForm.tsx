'use client';

import Button from 'react-bootstrap/Button';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { useForm, type FieldPath, type UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { keeping, type ActionResult, type BrowserStamp } from '@/features/forms/keeping';

import { startOnSetup } from '../acts/actions';
import { AskRow } from '../kit/AskRow';
import { doubts } from '../kit/doubts';
import { useAsk } from '../kit/useAsk';

import { readShopForm, type ShopPart } from './readShopForm';

import type { ShopFields } from './shopTypes';
import { ShopFolds } from './ShopFolds';
import type { EquipmentChoice } from './ShopPanels';

interface ShopFormProps {
  readonly part: ShopPart;
  /** Whose it is: what is changed, or what it is added to. */
  readonly of: { readonly rigId?: string; readonly setupId?: string };
  readonly version: number;
  readonly initial: ShopFields;
  readonly unit: LengthUnit;
  /** Keeps what was typed, and says which page shows it. */
  readonly save: SaveShop;
  readonly words: string;
  /** What the rig’s cutter has; none while the rig is only being added. */
  readonly equipment?: EquipmentChoice;
  readonly back: { readonly href: string; readonly words: string };
}

/** Its shape is looked at where it is kept. */
export type SaveShop = (
  given: never,
  stamp: BrowserStamp,
) => Promise<ActionResult<{ readonly goTo: string | null; readonly setupId?: string }>>;

/** Adds or changes a rig or a setup: who prints, who cuts, which figures they take; on what, in what size. */
export function ShopForm(props: ShopFormProps) {
  const [base, setBase] = useState(props);
  const [savedVersion, setSavedVersion] = useState<number | null>(null);
  // What was saved here is laid out afresh. A refresh for any other reason leaves what is being typed alone,
  // and the version it started from: a save over somebody else's is then refused, not lost.
  if (savedVersion !== null && props.version > savedVersion) {
    setBase(props);
    setSavedVersion(null);
  } else if (props.unit !== base.unit) setBase({ ...props, version: base.version });
  const [saved, setSaved] = useState(false);
  return (
    <Editor
      key={`${base.version} ${base.unit}`}
      {...base}
      saved={saved ? 'Saved.' : ''}
      onSaved={() => {
        setSavedVersion(base.version);
        setSaved(true);
      }}
    />
  );
}

function Editor({
  part,
  of,
  version,
  initial,
  unit,
  save,
  words,
  back,
  equipment,
  saved,
  onSaved,
}: ShopFormProps & { readonly saved: string; readonly onSaved: () => void }) {
  const form = useForm<ShopFields>({ defaultValues: initial });
  const router = useRouter();
  const ready = useHydrated();
  const [pending, start] = useTransition();
  const [message, setMessage] = useState('');
  const asking = useAsk();

  const submit = form.handleSubmit((typed, event) => {
    const pressed = (event?.nativeEvent as SubmitEvent | undefined)?.submitter;
    const prints = pressed?.getAttribute('value') === 'print';
    const fields = part === 'new-rig' ? named(typed) : typed;
    if (part === 'new-rig' && asksMarks(fields)) {
      form.setError('marks.count', {
        message: 'Two machines: choose which marks the cutter looks for, none too.',
      });
      return;
    }
    const read = readShopForm(fields, unit, part);
    if (Object.keys(read.errors).length > 0) {
      showErrors(form, read.errors);
      setMessage('Some figures need another look; they are marked.');
      return;
    }
    const { toleranceMm } = read.input;
    const asked =
      typeof toleranceMm === 'number'
        ? doubts('toleranceMm', fields.toleranceMm, 'allowed miss', toleranceMm, {}, unit)
        : [];
    if (asking.asks(asked)) return;
    const sure = asking.answers();
    start(async () => {
      const result = await keeping([part, of, version, read.input], (stamp) =>
        save({ ...read.input, ...of, version } as never, { ...stamp, sure }),
      );
      if (result.ok) {
        const { goTo, setupId } = result.value;
        if (setupId && prints) {
          const started = { setupId, kind: 'calibration' } as const;
          await keeping(['start', setupId, 'calibration'], (stamp) => startOnSetup(started, stamp));
        }
        if (goTo !== null) router.push(goTo);
        onSaved();
        setMessage('');
        router.refresh();
        return;
      }
      setMessage(result.message);
      showErrors(form, result.fields);
    });
  });

  const answer = (meant: string): void => {
    if (!asking.question) return;
    form.setValue('toleranceMm', asking.answer(asking.question, meant));
    void submit();
  };

  return (
    <form onSubmit={submit} noValidate>
      <fieldset disabled={!ready} style={{ display: 'contents' }}>
        <div className={`shop-form shop-form-${part}`}>
          <ShopFolds {...{ part, form, unit, equipment }} fresh={version === 0} />
          <div className="shop-end">
            <AskRow question={asking.question} onAnswer={answer} />
            <div className="shop-acts">
              {part === 'new-rig' && (
                <Button
                  type="submit"
                  variant="main"
                  className="px-4 big-act"
                  disabled={pending}
                  value="print"
                >
                  Make it, print its first sheet
                </Button>
              )}
              <Button
                type="submit"
                variant={part === 'new-rig' ? 'plain' : 'main'}
                className="px-4"
                disabled={pending}
              >
                {words}
              </Button>
              <Button variant="plain" onClick={() => router.push(back.href)}>
                {back.words}
              </Button>
              <span role="status" className={message ? 'field-error' : undefined}>
                {message || saved}
              </span>
            </div>
          </div>
        </div>
      </fieldset>
    </form>
  );
}

/** Names are optional where a rig is new: what is not called anything is called what it is. */
function named(typed: ShopFields): ShopFields {
  const printer = typed.printer.trim() || 'printer';
  return {
    ...typed,
    printer,
    cutter: typed.cutter.trim() || 'cutter',
    name: typed.name.trim() || `${printer} rig`,
  };
}

/** Two machines, and nobody said whether the cutter looks for marks. */
const asksMarks = ({ printer, cutter, marks, marksTold }: ShopFields): boolean =>
  printer !== cutter && marks.count === '0' && !marksTold;

function showErrors(form: UseFormReturn<ShopFields>, errors: Readonly<Record<string, string>>): void {
  const names = Object.keys(errors) as FieldPath<ShopFields>[];
  names.forEach((name) => form.setError(name, { message: errors[name]! }));
  // What is wrong is never folded away.
  requestAnimationFrame(() => {
    for (const fold of document.querySelectorAll<HTMLDetailsElement>('details.fold, details.working'))
      if (fold.querySelector('[aria-invalid="true"]')) fold.open = true;
    if (names[0]) form.setFocus(names[0]);
  });
}
