import { SetupStands } from '@/features/forms/setup/SetupStands';
import { requestDeps } from '@/server/base/context';
import type { Run } from '@/server/runs/run';
import { stateOfSetup } from '@/server/setups/bench';

/** Run, rig and media in use and how they stand; at the right how the run goes. */
export async function RunContext({ run, words }: { run: Run; words: string }) {
  return (
    <>
      <strong>
        {run.label} {run.name}
      </strong>
      <span className="soft">
        {run.setup.name}, {run.setup.media}
      </span>
      <SetupStands stands={await stateOfSetup(requestDeps(), run.setup)} />
      <strong className="ms-auto">{words}</strong>
    </>
  );
}
