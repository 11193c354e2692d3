'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { CutLineRecipe } from '@/core/artwork';
import type { Room } from '@/core/sheetJob';
import { keeping } from '@/features/forms/keeping';

import { sendArt } from './sendArt';

/** A setup on which a job could be made. */
export interface SetupToChoose {
  readonly id: string;
  readonly words: string;
  /** What its sheet leaves free. */
  readonly rooms: readonly Room[];
}

/** From a cut line to a job: the same picture and recipe, laid out on a setup's sheet. */
export function MakeJob({
  file,
  recipe,
  setups,
  setupId,
  onSetup,
}: {
  file: File;
  recipe: CutLineRecipe;
  setups: readonly SetupToChoose[];
  setupId: string;
  onSetup: (setupId: string) => void;
}) {
  const router = useRouter();
  const [name, setName] = useState(file.name.replace(/\.[^.]*$/, '').slice(0, 80));
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const make = (): void =>
    start(async () => {
      setSaid('');
      const job = { setupId, name, recipe };
      // Pressed again after no answer it is the same job; without initials it asks and goes on.
      const made = await keeping(['sheet job', file.name, file.size, job], ({ request }) =>
        sendArt<{ id: string }>('/api/sheet-jobs', file, { job: JSON.stringify(job), request }),
      );
      if (made.ok) router.push(`/jobs/sheets/${made.value.id}`);
      else setSaid(made.message);
    });
  if (setups.length === 0) return null;
  return (
    <form
      className="panel stack"
      aria-label="Make a sheet job of it"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <div>
        <FormLabel htmlFor="job-name">Name</FormLabel>
        <FormControl
          id="job-name"
          value={name}
          maxLength={80}
          required
          autoComplete="off"
          onChange={(event) => setName(event.target.value)}
        />
      </div>
      <div>
        <FormLabel htmlFor="job-setup">Printed and cut on</FormLabel>
        <FormSelect id="job-setup" value={setupId} onChange={(event) => onSetup(event.target.value)}>
          {setups.map((s) => (
            <option key={s.id} value={s.id}>
              {s.words}
            </option>
          ))}
        </FormSelect>
      </div>
      <div>
        <Button
          type="submit"
          variant="main"
          className="w-100 big-act"
          disabled={pending || name.trim() === ''}
        >
          {pending ? 'Laying it out …' : 'Lay it out'}
        </Button>
      </div>
      {said && (
        <span className="field-error" role="alert">
          {said}
        </span>
      )}
    </form>
  );
}
