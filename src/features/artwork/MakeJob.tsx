'use client';

import { useRouter } from 'next/navigation';
import { useState, useTransition } from 'react';
import Button from 'react-bootstrap/Button';
import FormControl from 'react-bootstrap/FormControl';
import FormLabel from 'react-bootstrap/FormLabel';
import FormSelect from 'react-bootstrap/FormSelect';

import type { CutLineRecipe } from '@/core/artwork';
import { keeping, type ActionResult } from '@/features/forms/keeping';

/** From a cut line to a job: the same picture and recipe, laid out on a setup's sheet. */
export function MakeJob({
  file,
  recipe,
  setups,
  chosen,
}: {
  file: File;
  recipe: CutLineRecipe;
  setups: readonly { readonly id: string; readonly words: string }[];
  chosen: string | null;
}) {
  const router = useRouter();
  const [name, setName] = useState(file.name.replace(/\.[^.]*$/, '').slice(0, 80));
  const [setupId, setSetupId] = useState(chosen ?? setups[0]?.id ?? '');
  const [said, setSaid] = useState('');
  const [pending, start] = useTransition();
  const make = (): void =>
    start(async () => {
      setSaid('');
      const job = { setupId, name, recipe };
      // Pressed again after no answer it is the same job; without initials it asks and goes on.
      const made = await keeping(['sheet job', file.name, file.size, job], ({ request }) =>
        sendJob(file, job, request),
      );
      if (made.ok) router.push(`/jobs/sheets/${made.value.id}`);
      else setSaid(made.message);
    });
  if (setups.length === 0) return null;
  return (
    <form
      className="panel stack"
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      <h2 className="mb-0">Make a sheet job of it</h2>
      <p className="small-print mb-0">
        Laid out on the sheet with marks, number and code; print and cut file then come as one frozen pair.
      </p>
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
        <FormSelect id="job-setup" value={setupId} onChange={(event) => setSetupId(event.target.value)}>
          {setups.map((s) => (
            <option key={s.id} value={s.id}>
              {s.words}
            </option>
          ))}
        </FormSelect>
      </div>
      <div>
        <Button type="submit" variant="main" disabled={pending || name.trim() === ''}>
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

/** Sends the picture; what came of it as a form's action would say it. Throws when no answer came. */
async function sendJob(
  file: File,
  job: object,
  request: string,
): Promise<ActionResult<{ readonly id: string }>> {
  const form = new FormData();
  form.set('image', file);
  form.set('job', JSON.stringify(job));
  form.set('request', request);
  const answer = await fetch('/api/sheet-jobs', { method: 'POST', body: form });
  const told = (await answer.json().catch(() => null)) as {
    id?: string;
    error?: { code: string; message: string };
  } | null;
  if (told?.id) return { ok: true, value: { id: told.id } };
  return {
    ok: false,
    said: told?.error?.code === 'no-initials' ? 'who' : 'refused',
    message: told?.error?.message ?? 'This did not work. Try again.',
    fields: {},
  };
}
