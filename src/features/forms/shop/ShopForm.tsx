'use client';

import Button from 'react-bootstrap/Button';
import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import { useForm, type FieldPath, type UseFormReturn } from 'react-hook-form';

import type { LengthUnit } from '@/core/units';
import { useHydrated } from '@/ui/useHydrated';

import { keeping, type ActionResult, type BrowserStamp } from '@/features/forms/keeping';

import { AskRow } from '../kit/AskRow';
import { doubts } from '../kit/doubts';
import { useAsk } from '../kit/useAsk';

import { readShopForm, type ShopPart } from './readShopForm';

import type { ShopFields } from './shopTypes';
import { Panels, type EquipmentChoice } from './ShopPanels';

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
) => Promise<ActionResult<{ readonly goTo: string | null }>>;

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

  const submit = form.handleSubmit((fields) => {
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
        if (result.value.goTo !== null) router.push(result.value.goTo);
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
        <Panels part={part} form={form} unit={unit} equipment={equipment} />
        <AskRow question={asking.question} onAnswer={answer} />
        <div className="d-flex gap-3 align-items-center mt-3">
          <Button type="submit" variant="main" className="px-4" disabled={pending}>
            {words}
          </Button>
          <Button variant="plain" onClick={() => router.push(back.href)}>
            {back.words}
          </Button>
          <span role="status" className={message ? 'field-error' : undefined}>
            {message || saved}
          </span>
        </div>
      </fieldset>
    </form>
  );
}

function showErrors(form: UseFormReturn<ShopFields>, errors: Readonly<Record<string, string>>): void {
  const names = Object.keys(errors) as FieldPath<ShopFields>[];
  names.forEach((name) => form.setError(name, { message: errors[name]! }));
  if (names[0]) form.setFocus(names[0]);
}
