import type { Run } from '@/server/runs/run';
import { PlumbGlyph } from '@/ui/PlumbGlyph';

/** Run, rig and media in use; the state at the right of it. */
export function RunContext({ run, ratio, words }: { run: Run; ratio: number | null; words: string }) {
  return (
    <>
      <strong>
        {run.label} {run.name}
      </strong>
      <span className="soft">
        {run.setup.name}, {run.setup.media}
      </span>
      <span className="d-inline-flex align-items-center gap-2 ms-auto">
        <PlumbGlyph ratio={ratio} size={30} label={words} />
        <strong>{words}</strong>
      </span>
    </>
  );
}
