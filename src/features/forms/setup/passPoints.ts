import { passRadii } from '@/server/sessions/passRadii';
import type { Session } from '@/server/sessions/session';
import type { PassPoint } from '@/ui/charts/PassChart';

/** Each pass that says something, as a point of the error-by-pass chart. */
export async function passPoints(session: Session): Promise<PassPoint[]> {
  const radii = await passRadii(session);
  return session.passes.flatMap((pass, i) => {
    const r95Mm = radii[i];
    if (r95Mm == null) return [];
    const label =
      i === 0 && pass.purpose === 'measure'
        ? 'as found'
        : `proof ${session.passes.length > 2 ? i : ''}`.trim();
    return [{ label: session.kind === 'quick-check' ? 'quick check' : label, r95Mm }];
  });
}
