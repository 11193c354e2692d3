/* What a shop is made of, in words that the tables, the forms and the sentences share. */

/** What the operator can change to bring a rig in. */
export const CHANGEABLE = ['settings-and-file', 'settings', 'file', 'machine-page', 'nothing'] as const;
export type Changeable = (typeof CHANGEABLE)[number];

/** Where a machine keeps the value of a setting: one for all media, or one for each. */
export const KEPT = ['one', 'per-medium'] as const;
export type Kept = (typeof KEPT)[number];

/** Which machine of a rig a setting is typed into. */
export const MACHINE_ROLES = ['cutter', 'printer'] as const;
export type MachineRole = (typeof MACHINE_ROLES)[number];

/** What a cutter can have in its holder. */
export const TOOL_KINDS = ['knife', 'rotary', 'creaser', 'pen'] as const;
export type ToolKind = (typeof TOOL_KINDS)[number];

/** How strongly a mat holds, and a medium wants to be held. */
export const GRIPS = ['light', 'standard', 'strong'] as const;
export type Grip = (typeof GRIPS)[number];

export const WEARS = ['fresh', 'used', 'worn'] as const;
export type Wear = (typeof WEARS)[number];

/** Where a standing correction came from. */
export const STANDING_SOURCES = ['as-found', 'proved', 'accepted', 'taken-back'] as const;
export type StandingSource = (typeof STANDING_SOURCES)[number];

export const EVENT_KINDS = [
  'moved',
  'unplugged',
  'firmware',
  'new-blade',
  'media-change',
  'size-change',
  'long-idle',
  'feed',
  'other',
] as const;
export type EventKind = (typeof EVENT_KINDS)[number];

/** Events that happen to one medium or size; the others happen to the whole rig, and so to each of its setups. */
export const OF_ONE_SETUP: readonly EventKind[] = ['media-change', 'size-change', 'feed'];

/** A machine’s own words for one of its settings, as somebody read them there; empty where nobody noted any. */
export interface MachineWords {
  /** Its name there, when the operators call it something else. */
  readonly there: string;
  /** Which menu or keys lead to it. */
  readonly keys: string;
  /** What state the machine has to be in. */
  readonly state: string;
  /** What not to press first. */
  readonly notFirst: string;
  /** What to do afterwards: keep it, put the machine online again. */
  readonly after: string;
}
