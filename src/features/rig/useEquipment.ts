import { useState, useTransition } from 'react';

import { keeping } from '@/features/forms/keeping';

import { keepCutter, keepMat, keepTool } from './actions';

const KEEP = { tool: keepTool, mat: keepMat, cutter: keepCutter } as const;

/** Keeps one thing, and says what went wrong by its field. */
export function useEquipment(what: 'tool' | 'mat' | 'cutter') {
  const [pending, start] = useTransition();
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({});
  const [said, setSaid] = useState('');
  const save = (input: object, after?: () => void): void =>
    start(async () => {
      const done = await keeping(['equipment', what, input], (stamp) =>
        // Its shape is looked at where it is kept.
        KEEP[what](input as never, stamp),
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
