import { DECLARED_EFFECT_U, type ProvedEffect } from '@/core/correction';
import { fixed } from '@/core/units';

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What the machine's settings were seen to do, beside what they are declared to do. */
export function SeenEffects({
  settings,
  seen,
}: {
  settings: readonly Named[];
  seen: readonly ProvedEffect[];
}) {
  if (settings.length === 0) return null;
  return (
    <section className="panel">
      <h2>What its settings do</h2>
      <ul className="mb-0 ps-3">
        {settings.map((s) => (
          <li key={s.id}>{seenWords(s, seen)}</li>
        ))}
      </ul>
    </section>
  );
}

/** One setting: “Typing 1.00 into X moves the cut 0.98 (± 0.02), seen on 3 sheets.” */
export function seenWords({ id, name }: Named, seen: readonly ProvedEffect[]): string {
  const found = seen.find((p) => p.settingId === id);
  if (!found)
    return `${name}: not seen on a sheet yet, so ${fixed(100 * DECLARED_EFFECT_U, 0)} % of doubt is assumed.`;
  const { share, shareU, times } = found;
  if (share < -2 * shareU)
    return `${name}: it moved the cut the other way than it says, on ${times} ${times === 1 ? 'sheet' : 'sheets'}. Turn its direction round above.`;
  const told = `Typing 1.00 into ${name} does ${fixed(share, 2)} (± ${fixed(2 * shareU, 2)}), seen on ${times} ${times === 1 ? 'sheet' : 'sheets'}.`;
  return Math.abs(share - 1) > Math.max(2 * shareU, DECLARED_EFFECT_U)
    ? `${told} Look at its unit and its direction above, or at another setting that acts along with it.`
    : told;
}
