import type { Deps } from '@/server/base/deps';
import { loadBench, type BenchSetup } from '@/server/setups/bench';
import { sizeTitle } from '@/server/setups/find';

/** The setups on the bench, with what their machines have to show and what their files carry. */
export const setupsForScript = async (deps: Deps) => (await loadBench(deps)).map(forScript);

function forScript({ setup, history, unproved }: BenchSetup) {
  const known = unproved === null ? (history.at(-1) ?? null) : null;
  const { standing } = setup;
  return {
    id: setup.id,
    rig: setup.name,
    medium: setup.media,
    label: setup.label,
    size: sizeTitle(setup),
    state: known?.state ?? 'unknown',
    r95Mm: known?.r95Mm ?? null,
    /** Null while nothing was ever calibrated on it. */
    standing:
      standing.source === 'as-found'
        ? null
        : {
            settings: setup.settings.map((s) => ({ name: s.name, unit: s.unit, value: s.wanted })),
            map: standing.fileTransform,
            since: standing.since.toISOString(),
            by: standing.by,
            calibration: standing.sessionId,
          },
  };
}
