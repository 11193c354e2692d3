import { STATE_WORDS, type PlumbState } from '@/core/verdict';

/** Plumb, leaning, out of plumb: always in words. */
export function StateTag({ state }: { state: PlumbState | null }) {
  if (state === null) return <span className="tag tag-none">Not measured</span>;
  return <span className={`tag tag-${state}`}>{STATE_WORDS[state]}</span>;
}
