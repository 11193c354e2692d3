export { nestingHolds } from './holds';
export {
  nestings,
  takesLess,
  type NestedPiece,
  type NestedSheets,
  type NestJob,
  type NestShape,
} from './nest';
export { placedBy, turned, TURNS, type Turn } from './turned';
