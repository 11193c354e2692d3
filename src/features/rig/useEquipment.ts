import { useState, useTransition } from 'react';

import { keeping } from '@/features/forms/keeping';

import { keepEquipment } from './actions';

/** Keeps one thing, and says what went wrong by its field. */
export function useEquipment(what: 'tool' | 'mat' | 'cutter') {
  const [pending, start] = useTransition();
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const save = (input: object, after?: () => void): void =>
    start(async () => {
      const done = await keeping(['equipment', what, input], (stamp) =>
        keepEquipment({ what, input }, stamp),
      );
      setErrors(done.ok ? {} : done.fields);
      setSaid(done.ok ? 'Kept.' : done.message);
      if (done.ok) after?.();
    });
  const refuse = (fields: Readonly<Record<string, string>>): void => {
    setErrors(fields);
    setSaid('Some figures need another look; they are marked.');
  };
  return { pending, errors, said, save, refuse };
}
