import { STATE_WORDS, type PlumbState, type SetupState } from '@/core/verdict';

const UNKNOWN_WORDS = { 'never measured': 'Not measured', 'not proved yet': 'Not proved' } as const;

/** Plumb, leaning, out of plumb, or why nobody knows: always in words. */
export function StateTag({
  state,
  unknown,
}: {
  state: PlumbState | null;
  unknown?: SetupState['unknown'] | undefined;
}) {
  if (state === null)
    return <span className="tag tag-none">{UNKNOWN_WORDS[unknown ?? 'never measured']}</span>;
  return <span className={`tag tag-${state}`}>{STATE_WORDS[state]}</span>;
}
