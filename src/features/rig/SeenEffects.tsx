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
      <h2>What its settings were seen to do</h2>
      <ul className="mb-2 ps-3">
        {settings.map((s) => (
          <li key={s.id}>{seenWords(s, seen)}</li>
        ))}
      </ul>
      <p className="small-print mb-0">
        From sheets whose two sets were cut before and after typing. It tells how far a promise after typing
        can be trusted.
      </p>
    </section>
  );
}

/** One setting: “X: 98 % of what it says, ± 2 %, from 3 sheets”. */
export function seenWords({ id, name }: Named, seen: readonly ProvedEffect[]): string {
  const found = seen.find((p) => p.settingId === id);
  if (!found)
    return `${name}: typed and read again on no sheet yet, so ${fixed(100 * DECLARED_EFFECT_U, 0)} % of doubt is assumed.`;
  const { share, shareU, times } = found;
  if (share < -2 * shareU)
    return `${name}: it moved the cut the other way than it says, on ${times} ${times === 1 ? 'sheet' : 'sheets'}. Turn its direction round above.`;
  const told = `${name}: ${fixed(100 * share, 0)} % of what it says, ± ${fixed(200 * shareU, 0)} %, from ${times} ${times === 1 ? 'sheet' : 'sheets'}.`;
  return Math.abs(share - 1) > Math.max(2 * shareU, DECLARED_EFFECT_U)
    ? `${told} Look at its unit and its direction above, or at another setting that acts along with it.`
    : told;
}
