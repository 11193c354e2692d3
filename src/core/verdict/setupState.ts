import { plumbState, type PlumbState } from './verdict';

/** What the log says of a setup, newest last. */
export interface SetupLog {
  readonly setup: { readonly toleranceMm: number };
  /** Sessions that said how far it is off. */
  readonly history: readonly { readonly r95Mm: number; readonly state: PlumbState }[];
  /** A correction that was carried out after all of them, and whose proof was not read; null else. */
  readonly unproved: object | null;
}

/** How a setup stands, and why nobody knows where nobody does. */
export type SetupState =
  | { readonly state: PlumbState; readonly r95Mm: number; readonly ratio: number; readonly unknown: null }
  | {
      readonly state: null;
      readonly r95Mm: null;
      readonly ratio: null;
      readonly unknown: 'never measured' | 'not proved yet';
    };

/**
 * The one judge of how a setup stands: by its newest session. What was measured before a correction is no figure of the
 * machine after it; whoever allows another miss since is judged by that.
 */
export function setupState({ setup, history, unproved }: SetupLog): SetupState {
  const last = history.at(-1);
  const nothing = { state: null, r95Mm: null, ratio: null } as const;
  if (unproved) return { ...nothing, unknown: 'not proved yet' };
  if (!last) return { ...nothing, unknown: 'never measured' };
  const { r95Mm } = last;
  return {
    state: plumbState(r95Mm, setup.toleranceMm),
    ...{ r95Mm, ratio: r95Mm / setup.toleranceMm, unknown: null },
  };
}
