export {
  deedOf,
  sameFigure,
  sameStanding,
  standingAfter,
  toType,
  type Deed,
  type Ended,
  type ShownSetting,
  type Standing,
} from './standing';
export {
  CHANGEABLE,
  EVENT_KINDS,
  KEPT,
  MACHINE_ROLES,
  OF_ONE_SETUP,
  STANDING_SOURCES,
  type Changeable,
  type EventKind,
  type Kept,
  type MachineRole,
  type StandingSource,
} from './vocabulary';
