/* The steps of sessions and runs, in words that the tables, the use cases and the screens share. */

export const SESSION_KINDS = ['calibration', 'quick-check', 'roll-proof'] as const;
export type SessionKind = (typeof SESSION_KINDS)[number];

export const STAGES = ['print', 'read', 'correct', 'prove', 'closed'] as const;
export type Stage = (typeof STAGES)[number];

export const OPEN_STAGES = ['print', 'read', 'correct', 'prove'] as const satisfies readonly Stage[];

export const PASS_PURPOSES = ['measure', 'prove'] as const;

/** What carries the correction: the machine's settings, the cut file, both, or the machine's own calibration page. */
export const CORRECTION_WAYS = ['settings', 'file', 'both', 'machine-page', 'push'] as const;
export type CorrectionWay = (typeof CORRECTION_WAYS)[number];

/** Jobs; and the two ends of a piece, read to learn the drift. */
export const RUN_KINDS = ['job', 'two-marks'] as const;

export const RUN_STAGES = ['release', 'running', 'paused', 'closed'] as const;
export type RunStage = (typeof RUN_STAGES)[number];

export const SECTION_STATES = ['waiting', 'cut', 'finished'] as const;

export const CHECK_PLACES = ['first row', 'last row'] as const;
export type CheckPlace = (typeof CHECK_PLACES)[number];

export const CHECK_WAYS = ['comb', 'gaps', 'ruler'] as const;
export type CheckWay = (typeof CHECK_WAYS)[number];

export const RUN_EVENT_KINDS = [
  'released',
  'registered',
  'slip-kept',
  'laminated',
  'standing',
  'undone',
  'paused',
  'resumed',
  'closed',
  'reopened',
] as const;
export type RunEventKind = (typeof RUN_EVENT_KINDS)[number];

/** How a machine shows a value below zero. */
export const VALUE_DISPLAYS = ['signed', 'sign-and-size'] as const;

/** What was measured by tape. */
export const TAPED = ['print', 'cut'] as const;
