'use client';

import { useRouter } from 'next/navigation';

import type { CutLineRecipe } from '@/core/artwork';
import { keeping, whyNotDone } from '@/features/forms/keeping';
import { PendingButton } from '@/ui/PendingButton';

import { changeSheetJobLine } from './actions';

/** Keeps another line for a piece of a draft, which is laid out anew with it. */
export function KeepLine({
  job,
  piece,
  recipe,
}: {
  job: { readonly id: string; readonly version: number; readonly label: string };
  piece: string;
  recipe: CutLineRecipe;
}) {
  const router = useRouter();
  return (
    <section className="panel">
      <h2>Keep this line</h2>
      <p className="small-print">
        {job.label} is laid out anew with it. What was moved by hand lies where the rule puts it again.
      </p>
      <PendingButton
        main
        words="Keep it"
        onPress={async () => {
          const input = { jobId: job.id, piece, recipe: { ...recipe, ignore: [...recipe.ignore] } };
          const done = await keeping(
            ['line', input],
            (stamp) => changeSheetJobLine(input, stamp),
            job.version,
          );
          if (!done.ok) return whyNotDone(done);
          router.push(`/jobs/sheets/${job.id}`);
          return null;
        }}
      />
    </section>
  );
}
