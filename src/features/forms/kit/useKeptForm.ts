'use client';

import { useState, useTransition } from 'react';

import type { LengthUnit } from '@/core/units';
import { keeping, whyNotDone, type ActionResult, type BrowserStamp } from '@/features/forms/keeping';
import { useHydrated } from '@/ui/useHydrated';

import { readTyped, type Readers, type Typed, type ValuesOf, type Wrong } from './typed';
import { useAsk, type Question } from './useAsk';

interface KeptForm<F extends Readers, R> {
  /** What stands in the fields at first, as text. */
  readonly initial: Typed<NoInfer<keyof F>>;
  readonly readers: F;
  readonly unit?: LengthUnit;
  /** Names what is kept, with its values: pressed again after no answer, it goes out under the number it had before. */
  readonly what: unknown;
  readonly send: (values: ValuesOf<NoInfer<F>>, stamp: BrowserStamp) => Promise<ActionResult<R>>;
  /** What is said once it is kept. */
  readonly done: string | ((values: ValuesOf<NoInfer<F>>, value: NoInfer<R>) => string);
  /** The fields once it is kept: as at first where nothing is said. */
  readonly after?: (typed: Typed<NoInfer<keyof F>>, values: ValuesOf<NoInfer<F>>) => Typed<NoInfer<keyof F>>;
  /** Figures that are hardly meant. */
  readonly judge?: (values: ValuesOf<NoInfer<F>>, typed: Typed<NoInfer<keyof F>>) => readonly Question[];
  /** What of several fields together is wrong, by field. */
  readonly wrong?: (values: ValuesOf<NoInfer<F>>) => Wrong<NoInfer<keyof F>>;
  readonly version?: number;
  readonly onKept?: (values: ValuesOf<NoInfer<F>>) => void;
}

/** What the parts of a form need of it. */
export interface FormState<K extends PropertyKey = string> {
  readonly typed: Typed<K>;
  readonly errors: Wrong<K>;
  readonly unit: LengthUnit;
  readonly ready: boolean;
  readonly pending: boolean;
  readonly said: string;
  readonly question: Question | null;
  readonly set: (name: K & string, text: string) => void;
  readonly submit: () => void;
  /** Answers what was asked: what is meant, as it would be typed. */
  readonly answer: (meant: string) => void;
}

/**
 * A form that keeps something: its fields are text until they are read, what cannot be read or is refused stands by its
 * field, what was typed stays. The shop's form, whose fields are many, keeps them in react-hook-form; these are few.
 */
export function useKeptForm<F extends Readers, R>(given: KeptForm<F, R>): FormState<keyof F> {
  const { initial, readers, unit = 'mm', what, send, done, version } = given;
  const [typed, setTyped] = useState(initial);
  const [errors, setErrors] = useState<Wrong<keyof F>>({} as Wrong<keyof F>);
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const ready = useHydrated();
  const asking = useAsk();

  const submitted = (now: Typed<keyof F>): void => {
    const read = readTyped(now, readers, unit);
    const wrong = read.ok ? (given.wrong?.(read.value) ?? ({} as Wrong<keyof F>)) : read.refusal;
    setErrors(wrong);
    setSaid('');
    if (!read.ok || Object.keys(wrong).length > 0) return;
    const values = read.value;
    if (asking.asks(given.judge?.(values, now) ?? [])) return;
    const sure = asking.answers();
    start(async () => {
      const result = await keeping(
        [what, values],
        (stamp) => send(values, sure.length > 0 ? { ...stamp, sure } : stamp),
        version,
      );
      // An action that leads to another page gives nothing back: it is done.
      if (!result) return;
      if (result.ok) {
        setSaid(typeof done === 'string' ? done : done(values, result.value));
        setTyped(given.after ? given.after(now, values) : initial);
        asking.forget();
        given.onKept?.(values);
        return;
      }
      const own = Object.fromEntries(
        Object.entries(result.fields).filter(([name]) => name in readers),
      ) as Wrong<keyof F>;
      setErrors(own);
      setSaid(Object.keys(own).length > 0 ? '' : whyNotDone(result));
    });
  };

  return {
    ...{ typed, errors, unit, ready, pending, said, question: asking.question },
    set: (name, text) => {
      setTyped({ ...typed, [name]: text });
      asking.withdraw();
    },
    submit: () => submitted(typed),
    answer: (meant) => {
      if (!asking.question) return;
      const next = { ...typed, [asking.question.field]: asking.answer(asking.question, meant) };
      setTyped(next);
      submitted(next);
    },
  };
}
