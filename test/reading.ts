import { seededRandom } from '@/core/random/random';
import { coarseOffset, nearestLengths } from '@/core/comb';
import { loadField, lookAtComb, type SimulatedRig } from '@/core/rigsim';
import type { Deps } from '@/server/base/deps';
import { getSession } from '@/server/sessions/loadSession';
import { saveReading } from '@/server/sessions/readings';
import { currentPass } from '@/server/sessions/session';
import type { Setup } from '@/server/setups/setup';

/**
 * Reads the current set of a session as it would look on a rig that is only shifted, mm, beyond the figures that the
 * setup had when it was added; loads do not differ.
 */
export async function readByTruth(
  deps: Deps,
  sessionId: string,
  outMm: { readonly x: number; readonly y: number },
  setup: Setup,
): Promise<void> {
  const session = (await getSession(deps, sessionId))!;
  const pass = currentPass(session);
  const rig: SimulatedRig = {
    seed: 5,
    truth: { shiftXMm: outMm.x, shiftYMm: outMm.y, turnRad: 0, scaleAcross: 1, scaleAlong: 1, leanRad: 0 },
    centre: { x: setup.sheetWidthMm / 2, y: setup.sheetHeightMm / 2 },
    settingsAtTruth: Object.fromEntries(setup.settings.map((s) => [s.id, s.value])),
    effects: Object.fromEntries(setup.settings.map((s) => [s.id, s.effect])),
    loadScatterMm: 0,
  };
  const random = seededRandom(pass.position);
  const field = loadField(rig, pass.settingsAtCut, pass.load);
  for (const station of pass.stations)
    for (const axis of ['across', 'along'] as const) {
      const comb = station[axis];
      const sight = lookAtComb(comb, station.scaleCentre, field, random, undefined, pass.fileTransform);
      const lengths = nearestLengths(comb, sight.pick.line, sight.pick.between, coarseOffset(sight.coarseMm));
      const saved = await saveReading(deps, 'KT', {
        passId: pass.id,
        stationId: station.id,
        axis,
        pick: { ...sight.pick, lengths },
        coarseMm: sight.coarseMm,
      });
      if (!saved.ok) throw new Error(JSON.stringify(saved.refusal));
    }
}
