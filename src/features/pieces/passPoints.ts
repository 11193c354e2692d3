import { assess, type Session } from '@/server/sessions/session';
import type { PassPoint } from '@/ui/PassChart';

/** Each pass that says something, as a point of the error-by-pass chart. */
export function passPoints(session: Session): PassPoint[] {
  return session.passes.flatMap((pass, i) => {
    const a = assess(session, pass);
    // How far one axis alone is off is another figure.
    if (!a?.state) return [];
    const label =
      i === 0 && pass.purpose === 'measure'
        ? 'as found'
        : `proof ${session.passes.length > 2 ? i : ''}`.trim();
    return [{ label: session.kind === 'quick-check' ? 'quick check' : label, r95Mm: a.r95Mm }];
  });
}
