export { acceptance, ACCEPTED_RISK, type Acceptance } from './acceptance';
export { funnel, type Funnel, type FunnelStrip } from './funnel';
export { diagnose, type KindOfFault } from './diagnose';
export {
  FAULT_KINDS,
  type DiagnosedRig,
  type DiagnosedSheet,
  type DiagnosedStation,
  type FaultKind,
} from './kinds';
export {
  expectedMinutes,
  REMEDIES,
  REMEDY_IDS,
  remediesInOrder,
  type Remedy,
  type RemedyId,
  type RemedyToTry,
  type Tried,
} from './remedies';
