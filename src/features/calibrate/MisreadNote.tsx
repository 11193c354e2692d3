import type { Misread } from '@/core/calibration';

const name = (c: { readonly stationId: string; readonly axis: string }): string => `${c.stationId} ${c.axis}`;

/** Combs that are worth a second look, in words; nothing when there are none. */
export function MisreadNote({ misread: { crosses, lengths, one } }: { misread: Misread }) {
  const notes = [
    lengths.length > 0 &&
      `The readings would go together if ${lengths.map((l) => `${name(l)} were one comb length ${l.by > 0 ? 'more' : 'less'}`).join(' and ')}: lengths misread? Read the coarse cross there again.`,
    one && `Perhaps one comb is misread: read ${name(one)} again. Without it the others agree.`,
    crosses.length > 0 &&
      `The coarse cross of ${crosses.map(name).join(', ')} does not go with the combs: read the cross${crosses.length > 1 ? 'es' : ''} there again.`,
  ].filter((words) => words !== false && words !== null);
  return notes.map((words) => (
    <p key={words} className="notice mt-2 mb-0">
      {words}
    </p>
  ));
}
